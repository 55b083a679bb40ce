/** The types of the package, as far as they are used (it has none of its own). */
declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    /** The first half of the spectrum of real numbers, as real and imaginary part in turn. */
    realTransform(output: number[], input: readonly number[]): void;
  }
}
