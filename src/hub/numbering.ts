/**
 * Numbers for ids, as binary frames use them. A number is handed out once and never again while the hub runs, so a
 * frame that was on its way while the rig changed still means what it meant.
 */
export class Numbering {
  readonly ids: string[] = [];
  private readonly numbers = new Map<string, number>();

  /** The number of an id, given now where it has none yet. Throws past 65,534, which a frame cannot hold. */
  take(id: string): number {
    const known = this.numbers.get(id);
    if (known !== undefined) return known;
    if (this.ids.length >= 0xfffe) throw new Error('The hub has run out of numbers for names; restart Pumice.');
    this.numbers.set(id, this.ids.length);
    return this.ids.push(id) - 1;
  }

  find(id: string): number | undefined {
    return this.numbers.get(id);
  }
}
