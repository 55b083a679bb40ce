import Meyda from 'meyda';
import { describe, expect, it } from 'vitest';
import { findRoots, predict } from '../vowels/linearPrediction';
import { decimate, lowPass } from './decimator';
import { Cosines, hzOf, MelBands, melOf } from './mel';
import { PowerSpectrum } from './powerSpectrum';

const sine = (hz: number, length: number, size = 1) => Float32Array.from({ length }, (_, i) => size * Math.sin((2 * Math.PI * hz * i) / 48_000));

describe('spectra', () => {
  it('a sine of full scale has a peak of a quarter at its bin, under both windows', () => {
    for (const fall of [0.5, 0.2]) {
      const power = new PowerSpectrum(2048, fall).look(sine((48_000 * 100) / 2048, 2048));
      expect(power.indexOf(Math.max(...power))).toBe(100);
      expect(power[100]).toBeCloseTo(0.25, 2);
      expect(power[140]! / power[100]!).toBeLessThan(1e-5);
    }
  });
  it('agrees with another package, of the same sound under the same window', () => {
    const both = sine(750, 1024).map((sample, i) => 0.6 * sample + 0.2 * Math.sin((2 * Math.PI * 3000 * i) / 48_000));
    Object.assign(Meyda, { bufferSize: 1024, sampleRate: 48_000, windowingFunction: 'hanning' });
    const theirs = Meyda.extract('powerSpectrum', both) as unknown as Float32Array;
    const ours = new PowerSpectrum(1024).look(both);
    // They differ by the scale alone, and by half a sample in where the window lies.
    const scale = theirs[16]! / ours[16]!;
    for (const bin of [15, 16, 17, 63, 64, 65]) expect(Math.abs((ours[bin]! * scale) / theirs[bin]! - 1), `bin ${bin}`).toBeLessThan(0.05);
  });
  it('1000 Hz are 1000 mel, near enough (O’Shaughnessy 1987), and back', () => {
    expect(melOf(1000)).toBeCloseTo(999.99, 1);
    expect(hzOf(melOf(3217))).toBeCloseTo(3217, 6);
  });
  it('a band hears what lies in it', () => {
    const bands = new MelBands(10, 100, 6000, 2048, 48_000);
    const loudest = (hz: number) => {
      const db = bands.look(new PowerSpectrum(2048).look(sine(hz, 2048)), 1e-12);
      return db.indexOf(Math.max(...db));
    };
    const middles = Array.from({ length: 10 }, (_, i) => hzOf(melOf(100) + ((melOf(6000) - melOf(100)) * (i + 1)) / 11));
    expect(middles.map(loudest)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
  });
  it('cosines do not hear how loud something is', () => {
    const cosines = new Cosines(8, 4);
    const [soft, loud] = [new Float64Array(4), new Float64Array(4)];
    const shape = Float64Array.of(3, 1, 4, 1, 5, 9, 2, 6);
    cosines.look(shape, soft);
    cosines.look(shape.map((db) => db + 20), loud);
    soft.forEach((value, i) => expect(loud[i]).toBeCloseTo(value, 9));
    // DCT-II by hand of an impulse in the first of eight bands: sqrt(2/8) * cos(pi k / 16).
    cosines.look(Float64Array.of(1, 0, 0, 0, 0, 0, 0, 0), soft);
    expect(soft[1]).toBeCloseTo(0.5 * Math.cos((Math.PI * 2) / 16), 9);
  });
  it('every fourth sample keeps what is low and leaves out what is high', () => {
    const size = (hz: number) => {
      const into = new Float32Array(64);
      decimate(sine(hz, 1024), lowPass(0.9), into);
      return Math.max(...into.map(Math.abs));
    };
    expect(size(1000)).toBeCloseTo(1, 1);
    expect(size(9000)).toBeLessThan(0.01);
  });
});

describe('linear prediction', () => {
  it('finds the resonance that made a sound', () => {
    // y[n] = 2 r cos(w) y[n-1] - r^2 y[n-2] + impulse: a pole of radius r at the angle w.
    const [radius, angle] = [0.97, 0.8];
    const samples = new Float64Array(2000);
    for (let n = 0; n < samples.length; n++) samples[n] = (n === 0 ? 1 : 0) + 2 * radius * Math.cos(angle) * (samples[n - 1] ?? 0) - radius ** 2 * (samples[n - 2] ?? 0);
    const polynomial = new Float64Array(3);
    expect(predict(samples, 2, polynomial, new Float64Array(6))).toBe(true);
    expect([...polynomial]).toEqual([1, expect.closeTo(-2 * radius * Math.cos(angle), 3), expect.closeTo(radius ** 2, 3)]);
    const roots = new Float64Array(4);
    findRoots(polynomial, roots);
    expect(Math.hypot(roots[0]!, roots[1]!)).toBeCloseTo(radius, 3);
    expect(Math.abs(Math.atan2(roots[1]!, roots[0]!))).toBeCloseTo(angle, 3);
    expect(predict(new Float64Array(100), 2, polynomial, new Float64Array(6))).toBe(false);
  });
  it('finds all roots of a polynomial', () => {
    // (x-1)(x-2)(x^2+1) by hand.
    const roots = new Float64Array(8);
    findRoots(Float64Array.of(1, -3, 3, -3, 2), roots);
    const pairs = Array.from({ length: 4 }, (_, i) => `${(Math.round(roots[2 * i]! * 1e6) / 1e6 + 0).toFixed(3)} ${Math.abs(roots[2 * i + 1]!).toFixed(3)}`).map((pair) => pair.replace('-0.000', '0.000'));
    expect(pairs.sort()).toEqual(['0.000 1.000', '0.000 1.000', '1.000 0.000', '2.000 0.000']);
  });
});
