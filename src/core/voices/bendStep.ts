const BEND_STEPS = 8192;
const CENTS = 100;

/** What one step of a bend is, in cents. */
export function bendStepCents(rangeSemitones: number): number {
  return (rangeSemitones * CENTS) / BEND_STEPS;
}

/**
 * What the bend range of a receiver means for voices that glide, in a sentence.
 * @param spanSemitones how far a finger can glide; null where that has no end that is known
 */
export function bendInWords(rangeSemitones: number, spanSemitones: number | null): string {
  if (rangeSemitones === 0) return 'The receiver bends by nothing: every voice stays on its key.';
  const step = bendStepCents(rangeSemitones);
  const first = `The receiver bends by ${rangeSemitones} semitones: one step is ${step < 0.1 ? step.toFixed(3) : step.toFixed(2)} cents.`;
  return spanSemitones !== null && spanSemitones > rangeSemitones ? `${first} A finger can glide further, ${spanSemitones} semitones: beyond the range it stays at its end.` : first;
}
