/** The most notes one mapping sounds at once: a chord. */
export const CHORD_MOST = 16;
const NOTES = 128;
const NOBODY = 0;

/**
 * Which mapping made which note sound, so that every note on gets exactly one note off. Where a second mapping strikes a
 * note that sounds already, the note is ended first and then belongs to the second; the first one's release is silent.
 */
export class NoteBook {
  /** By output, channel and note: the number of the mapping plus 1, or NOBODY. */
  private readonly owners: Int32Array;
  /** By mapping: the note it struck last that still sounds, or -1. */
  private readonly latest: Int16Array;

  constructor(
    outputs: number,
    mappings: number,
    private readonly send: (output: number, mapping: number, on: boolean, channel: number, note: number, velocity: number) => void,
  ) {
    this.owners = new Int32Array(outputs * 16 * NOTES);
    this.latest = new Int16Array(mappings).fill(-1);
  }

  strike(output: number, mapping: number, channel: number, note: number, velocity: number, releaseVelocity: number): void {
    const at = place(output, channel, note);
    const owner = this.owners[at]!;
    if (owner !== NOBODY) this.send(output, owner - 1, false, channel, note, releaseVelocity);
    this.owners[at] = mapping + 1;
    this.latest[mapping] = note;
    this.send(output, mapping, true, channel, note, velocity);
  }

  /** Ends a note where it is this mapping's; else nothing. */
  end(output: number, mapping: number, channel: number, note: number, releaseVelocity: number): void {
    const at = place(output, channel, note);
    if (this.owners[at] !== mapping + 1) return;
    this.owners[at] = NOBODY;
    if (this.latest[mapping] === note) this.latest[mapping] = -1;
    this.send(output, mapping, false, channel, note, releaseVelocity);
  }

  /** Ends all notes of a mapping. */
  endAll(mapping: number): void {
    this.each((output, owner, channel, note) => {
      if (owner === mapping) this.end(output, owner, channel, note, RELEASE_VELOCITY);
    });
  }

  /** The note that a mapping struck last, while it sounds; else -1. */
  soundingOf(mapping: number): number {
    return this.latest[mapping] ?? -1;
  }

  each(visit: (output: number, mapping: number, channel: number, note: number) => void): void {
    for (let at = 0; at < this.owners.length; at++) {
      const owner = this.owners[at]!;
      if (owner !== NOBODY) visit(Math.floor(at / (16 * NOTES)), owner - 1, (Math.floor(at / NOTES) % 16) + 1, at % NOTES);
    }
  }

  /** Takes over a note that sounds already, without a message. */
  adopt(output: number, mapping: number, channel: number, note: number): void {
    this.owners[place(output, channel, note)] = mapping + 1;
    this.latest[mapping] = note;
  }
}

/** Release velocity where nothing else was said: the middle (MIDI 1.0 recommends 64 where there is no sensor). */
export const RELEASE_VELOCITY = 64;

const place = (output: number, channel: number, note: number) => (output * 16 + channel - 1) * NOTES + note;
