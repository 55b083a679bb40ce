/** Everything that listens works at this rate; whatever brings audio brings it so. */
export const SAMPLE_RATE_HZ = 48_000;
/** So many samples are taken in at once: what a browser hands over at a time (Web Audio 1.0: a render quantum of 128 frames). */
export const HOP = 128;
export const HOP_MS = (1000 * HOP) / SAMPLE_RATE_HZ;

/** The newest samples of a stream, always in one piece: the newest is the last. */
export class Newest {
  readonly samples: Float32Array;

  constructor(length: number) {
    this.samples = new Float32Array(length);
  }

  push(block: Float32Array): void {
    const { samples } = this;
    samples.copyWithin(0, block.length);
    samples.set(block, samples.length - block.length);
  }
}
