/** The frequency in Hz of a note number, 12-tone equal temperament, 69 being A4 = 440 Hz (ISO 16). */
export function noteToHz(note: number): number {
  return 440 * 2 ** ((note - 69) / 12);
}
