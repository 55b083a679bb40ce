const [SECOND, MINUTE, HOUR] = [1000, 60_000, 3_600_000];

/** A time in a take, as short as it can be: `1:07`, `1:02:07`. */
export function clockOf(ms: number): string {
  const two = (number: number) => String(Math.floor(number)).padStart(2, '0');
  return ms < HOUR ? `${Math.floor(ms / MINUTE)}:${two((ms % MINUTE) / SECOND)}` : `${Math.floor(ms / HOUR)}:${two((ms % HOUR) / MINUTE)}:${two((ms % MINUTE) / SECOND)}`;
}

/** The same with thousandths. */
export const preciseClockOf = (ms: number): string => `${clockOf(ms)}.${String(Math.floor(ms % SECOND)).padStart(3, '0')}`;

export function sizeInWords(bytes: number): string {
  if (bytes < 1e3) return `${bytes} bytes`;
  return bytes < 1e6 ? `${Math.round(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
}

export const dayAndTime = (timeMs: number): string => new Date(timeMs).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
