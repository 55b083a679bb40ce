/** So many looks: as long as a leap of pitch is in the window before it is known. */
const LOOKS = 8;

/** What the vowels were a moment ago: when a voice leaps too high for them, those looks that had the leap in their window are taken back. */
export class VowelsBefore {
  private readonly vowels = new Int32Array(LOOKS);
  private readonly amounts: Float64Array[];
  private count = 0;

  constructor(vowels: number) {
    this.amounts = Array.from({ length: LOOKS }, () => new Float64Array(vowels));
  }

  keep(vowel: number, amounts: Float64Array): void {
    const at = this.count++ % LOOKS;
    this.vowels[at] = vowel;
    this.amounts[at]!.set(amounts);
  }

  /** The oldest that is kept, written; gives its vowel, null where there was none yet. */
  back(amounts: Float64Array): number | null {
    if (this.count === 0) return null;
    const at = this.count > LOOKS ? this.count % LOOKS : 0;
    amounts.set(this.amounts[at]!);
    return this.vowels[at]!;
  }
}
