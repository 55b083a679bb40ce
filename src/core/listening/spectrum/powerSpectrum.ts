import FFT from 'fft.js';

/**
 * The power spectrum of the newest samples, bin by bin from 0 Hz to half the rate; a sine of full scale has a peak of 0.25. The window
 * is Hann's, or leans towards the newest: it rises slowly and falls within a share of its length, so that a change is seen sooner.
 */
export class PowerSpectrum {
  readonly power: Float64Array;
  private readonly fft: FFT;
  private readonly window: Float64Array;
  private readonly input: number[];
  private readonly output: number[];

  constructor(
    readonly size: number,
    fall = 0.5,
    /** Above 1 the window is narrower around where it is highest. */
    steepness = 1,
  ) {
    this.fft = new FFT(size);
    this.power = new Float64Array(size / 2 + 1);
    this.window = Float64Array.from({ length: size }, (_, i) => {
      const x = (i + 0.5) / size;
      return ((1 - Math.cos(Math.PI * (x < 1 - fall ? x / (1 - fall) : (1 - x) / fall))) / 2) ** steepness;
    });
    const sum = this.window.reduce((all, weight) => all + weight, 0);
    for (let i = 0; i < size; i++) this.window[i]! /= sum;
    this.input = new Array<number>(size).fill(0);
    this.output = this.fft.createComplexArray();
  }

  /** @param end the index behind the newest sample that counts */
  look(samples: Float32Array, end = samples.length): Float64Array {
    const { size, window, input, output, power } = this;
    for (let i = 0; i < size; i++) input[i] = samples[end - size + i]! * window[i]!;
    this.fft.realTransform(output, input);
    for (let bin = 0; bin < power.length; bin++) power[bin] = output[2 * bin]! ** 2 + output[2 * bin + 1]! ** 2;
    return power;
  }
}
