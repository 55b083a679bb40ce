/** Mel of a frequency in Hz (O'Shaughnessy 1987: 2595 log10(1 + f/700)), and back. */
export const melOf = (hz: number): number => 2595 * Math.log10(1 + hz / 700);
export const hzOf = (mel: number): number => 700 * (10 ** (mel / 2595) - 1);

/** Triangular bands of equal width on the mel scale (Davis and Mermelstein 1980), and their energies in dB. */
export class MelBands {
  readonly db: Float64Array;
  private readonly from: Int32Array;
  private readonly weights: Float64Array[];

  constructor(bands: number, leastHz: number, mostHz: number, size: number, rateHz: number) {
    this.db = new Float64Array(bands);
    this.from = new Int32Array(bands);
    const edges = Array.from({ length: bands + 2 }, (_, i) => hzOf(melOf(leastHz) + ((melOf(mostHz) - melOf(leastHz)) * i) / (bands + 1)));
    this.weights = Array.from({ length: bands }, (_, band) => {
      const [lo, middle, hi] = [edges[band]!, edges[band + 1]!, edges[band + 2]!];
      const first = Math.ceil((lo * size) / rateHz);
      const last = Math.min(size / 2, Math.floor((hi * size) / rateHz));
      this.from[band] = first;
      const weights = Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => {
        const hz = ((first + i) * rateHz) / size;
        return hz <= middle ? (hz - lo) / (middle - lo) : (hi - hz) / (hi - middle);
      });
      if (weights.some((weight) => weight > 0)) return Float64Array.from(weights);
      // A band narrower than a bin has the bin nearest to it.
      this.from[band] = Math.round((middle * size) / rateHz);
      return Float64Array.of(1);
    });
  }

  /** @param floor power that is added everywhere, so that silence is as soft as it is and not infinitely so */
  look(power: Float64Array, floor: number): Float64Array {
    const { db, from, weights } = this;
    for (let band = 0; band < db.length; band++) {
      const its = weights[band]!;
      const first = from[band]!;
      let energy = floor;
      for (let i = 0; i < its.length; i++) energy += its[i]! * power[first + i]!;
      db[band] = 10 * Math.log10(energy);
    }
    return db;
  }
}

/** Cosine coefficients 1 to `count` of bands in dB (DCT-II, orthonormal): the shape of a spectrum without its loudness. */
export class Cosines {
  private readonly table: Float64Array[];

  constructor(bands: number, readonly count: number) {
    this.table = Array.from({ length: count }, (_, k) => Float64Array.from({ length: bands }, (_, band) => Math.sqrt(2 / bands) * Math.cos((Math.PI * (k + 1) * (band + 0.5)) / bands)));
  }

  look(db: Float64Array, into: Float64Array, at = 0): void {
    for (let k = 0; k < this.count; k++) {
      const row = this.table[k]!;
      let sum = 0;
      for (let band = 0; band < db.length; band++) sum += row[band]! * db[band]!;
      into[at + k] = sum;
    }
  }
}
