/** A set of small numbers that can be walked and shrunk without allocation. */
export class ActiveSet {
  private readonly items: Uint32Array;
  /** By number: its place in `items` plus 1, or 0. */
  private readonly places: Uint32Array;
  size = 0;

  constructor(capacity: number) {
    this.items = new Uint32Array(capacity);
    this.places = new Uint32Array(capacity);
  }

  add(item: number): void {
    if (this.places[item] !== 0) return;
    this.items[this.size++] = item;
    this.places[item] = this.size;
  }

  has(item: number): boolean {
    return this.places[item] !== 0;
  }

  /** Takes an item out; the last one moves to its place, so walk from the end where items go meanwhile. */
  delete(item: number): void {
    const place = this.places[item]!;
    if (place === 0) return;
    const last = this.items[--this.size]!;
    this.items[place - 1] = last;
    this.places[last] = place;
    this.places[item] = 0;
  }

  clear(): void {
    for (let i = 0; i < this.size; i++) this.places[this.items[i]!] = 0;
    this.size = 0;
  }

  at(i: number): number {
    return this.items[i]!;
  }
}
