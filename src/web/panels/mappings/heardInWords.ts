const S_PER_MINUTE = 60;

/** When a mapping was heard last, in words, from its time on the clock of this page; undefined where nothing is known yet. */
export function heardInWords(heardMs: number | null | undefined): string {
  if (heardMs === undefined) return ' ';
  if (heardMs === null) return 'not heard yet';
  const s = Math.max(0, (performance.now() - heardMs) / 1000);
  if (s < 2) return 'heard now';
  if (s < S_PER_MINUTE) return `heard ${Math.floor(s)} s ago`;
  const minutes = Math.floor(s / S_PER_MINUTE);
  return minutes < S_PER_MINUTE ? `heard ${minutes} min ago` : 'heard over an hour ago';
}
