export const CHANNELS = Array.from({ length: 16 }, (_, i) => i + 1);

/** A name as it is kept; throws where there is none. */
export function nameFrom(text: string): string {
  if (text.trim() === '') throw new Error('A name has at least one character: it keeps the one it had.');
  return text.trim();
}
