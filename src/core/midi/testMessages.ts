/** The messages that set a registered parameter (MIDI 1.0: 101, 100, then 6 and, where it is said, 38). @param channel 1 to 16 */
export function rpn(channel: number, parameter: number, coarse: number, fine?: number): number[][] {
  const status = 0xb0 | (channel - 1);
  return [[status, 101, parameter >> 7], [status, 100, parameter & 0x7f], [status, 6, coarse], ...(fine === undefined ? [] : [[status, 38, fine]])];
}
