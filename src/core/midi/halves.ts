/** From a controller to the one of its lower half (MIDI 1.0, Control Change). */
export const LSB = 32;
/** A second half that comes this soon belongs to the first. */
export const PAIR_MS = 10;
const CHANNELS = 16;

/**
 * Tells lower halves from plain controllers of the same numbers, 32 to 63: one that comes with its upper half, from whoever said that,
 * is a half (MIDI 1.0 leaves both readings open). Messages are shown in their order.
 */
export class LowerHalves {
  private readonly upperMs = new Map<number, number>();

  /**
   * Whether a controller is the lower half of one that came just before it.
   * @param source who says it, as a number
   * @param channel 0 to 15
   */
  isOne(source: number, channel: number, controller: number, timeMs: number): boolean {
    if (controller >= 2 * LSB) return false;
    const key = (source * CHANNELS + channel) * LSB + (controller % LSB);
    if (controller >= LSB) return timeMs - (this.upperMs.get(key) ?? -Infinity) <= PAIR_MS;
    this.upperMs.set(key, timeMs);
    return false;
  }
}
