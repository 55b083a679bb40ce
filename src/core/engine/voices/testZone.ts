/**
 * Watches the bytes of one MPE zone by the rules of the MPE specification 1.0 (RP-053), written from the specification, not from
 * the engine: what breaks one is said. Sections from memory: 2.2.1 notes on members, 2.2.4 pitch bend, 2.2.5 to 2.2.7
 * pressure and the third dimension, A.4 order of messages before a note.
 */
export class ZoneWatch {
  readonly broken: string[] = [];
  notes = 0;
  private readonly sounding = new Map<number, Set<number>>();
  /** By member: what was said since its last note began or ended. */
  private readonly said = new Map<number, Set<string>>();
  readonly bends = new Map<number, number>();
  readonly pedals = new Map<number, number>();

  constructor(
    private readonly manager: number,
    private readonly members: readonly number[],
  ) {
    for (const member of members) {
      this.sounding.set(member, new Set());
      this.said.set(member, new Set());
    }
  }

  hear([status = 0, first = 0, second = 0]: Uint8Array): void {
    const channel = (status & 0x0f) + 1;
    const kind = status & 0xf0;
    const ofMember = this.members.includes(channel);
    if (!ofMember && channel !== this.manager) return this.breaks(`${status.toString(16)} goes to channel ${channel}, which is not of the zone`);
    const isPedal = kind === 0xb0 && first >= 64 && first <= 69;
    if (isPedal && ofMember && second > 0) return this.breaks(`pedal ${first} on member ${channel}`);
    if (!ofMember) {
      if (isPedal) this.pedals.set(first, second);
      if (kind === 0x90) this.breaks('a note on the manager');
      return;
    }
    const sounds = this.sounding.get(channel)!;
    const said = this.said.get(channel)!;
    switch (kind) {
      case 0xe0:
        said.add('bend');
        this.bends.set(channel, first | (second << 7));
        return;
      case 0xd0:
        said.add('pressure');
        return;
      case 0xb0:
        if (first === 74) said.add('slide');
        return;
      case 0x90: {
        this.notes++;
        if (second === 0) this.breaks('a note on with velocity 0 is an end');
        if (sounds.size > 0 && this.members.some((member) => this.sounding.get(member)!.size === 0)) this.breaks(`two notes on member ${channel} while another is free`);
        if (sounds.has(first)) this.breaks(`note ${first} begins twice on member ${channel}`);
        for (const what of ['bend', 'pressure', 'slide']) if (!said.has(what)) this.breaks(`${what} was not said before the note on member ${channel}`);
        sounds.add(first);
        said.clear();
        return;
      }
      case 0x80:
        if (!sounds.delete(first)) this.breaks(`note ${first} ends on member ${channel} and does not sound`);
        said.clear();
    }
  }

  get soundingNotes(): number {
    return [...this.sounding.values()].reduce((sum, notes) => sum + notes.size, 0);
  }

  private breaks(sentence: string): void {
    if (this.broken.length < 20) this.broken.push(sentence);
  }
}
