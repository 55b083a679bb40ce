import { HOP, Newest, SAMPLE_RATE_HZ } from '../audio';
import { DECIMATION, decimate, lowPass } from '../spectrum/decimator';
import { sumEnergies, vertex } from './nsdf';

export const LEAST_HZ = 75;
export const MOST_HZ = 1100;
/** As alike as this, and what sounds has a pitch. */
export const VOICED = 0.9;
/** A pitch that goes on as it was need not be as clear: breath comes and goes. */
const STILL_VOICED = 0.8;

/** A tone that begins after so many hops of none, and is less clear than this, must come again after two periods, as clear as that. */
const FROM_NOTHING_HOPS = 12;
const SURE = 0.96;
const AGAIN = 0.9;

const WINDOW = 400;
const LONGEST = Math.ceil(SAMPLE_RATE_HZ / LEAST_HZ);
/** It leaves few partials of high tones, so that their peaks are broad enough for lags this coarse. */
const BROAD = lowPass(0.4);
const COARSE_SHORTEST = Math.floor(SAMPLE_RATE_HZ / MOST_HZ / DECIMATION);
const COARSE_LONGEST = Math.ceil(LONGEST / DECIMATION);
/** Every peak this near to the best is looked at more closely, so far around it. */
const NEAR = 0.8;
const AROUND = 4;
const CANDIDATES = 32;
/** An octave deeper must be so much more alike: an open vowel repeats after two periods nearly as well as after one. */
const OCTAVE_COST = 0.03;
const COST_FROM = 40;

/** A short period is measured over several, together at most this long. */
const SEVERAL = 240;
const SEVERAL_ALIKE = 0.98;
/** What goes on as it was is worth a little more, so that noise does not throw it into another octave; less than half an octave costs. */
const GOING_ON = 0.006;
const GOING_ON_SHARE = 0.035;

/** Two periods or more of what was just sung repeat by themselves, and breath that rings in a low resonance lies among them: to be the pitch they must be much more alike. */
const MULTIPLE_COST = 0.06;
/** Unless they are so much more alike in the mean of so many hops, as breath never is: then it is an octave too high, as an [o] whose second partial rings in its first formant begins. */
const DOUBT = 0.06;
const DOUBT_HOPS = 6;

/** Whether a lag is that of a subharmonic of what has sounded. */
function isMultiple(lag: number, lastLag: number): boolean {
  const times = lastLag > 0 ? lag / lastLag : 1;
  const whole = Math.round(times);
  return whole >= 2 && Math.abs(times - whole) < GOING_ON_SHARE * whole;
}

/** The trap is set for tones above 400 Hz only, whose lags are from here to there. */
const HIGHEST_LAG = SAMPLE_RATE_HZ / MOST_HZ;
const TRAPPED_LAG = SAMPLE_RATE_HZ / 400;
const EMPHASIS = 0.95;
const TONE_SHARE = 0.65;
const PEAK_SHARE = 0.02;

const worthOf = (clarity: number, lag: number) => clarity - OCTAVE_COST * Math.log2(lag / COST_FROM);

/**
 * What is sung, hop by hop: `hz` (0 where nothing has a pitch) and `clarity`, how alike the newest moment is to itself a period ago.
 * A coarse search on a decimated copy finds periods; each is measured at the full rate. Allocates nothing.
 */
export class PitchTracker {
  hz = 0;
  clarity = 0;
  private unvoicedHops = Infinity;
  /** By how much a multiple of the period was lately more alike than the period. */
  private doubt = 0;
  private readonly newest = new Newest(2 * LONGEST + 2 * AROUND + 2);
  private readonly coarse = new Newest(2 * COARSE_LONGEST + 4);
  private readonly fresh = new Float32Array(HOP / DECIMATION);
  private readonly alike = new Float32Array(COARSE_LONGEST + 2);
  /** By sample from the newest back: the energy of all newer ones. */
  private readonly energy = new Float64Array(2 * COARSE_LONGEST + 4);
  private readonly energies = new Float64Array(2 * LONGEST + 2 * AROUND + 3);
  private readonly around = new Float64Array(2 * AROUND + 3);
  private readonly candidates = new Int32Array(CANDIDATES);
  private readonly emphasised = new Float32Array(2 * LONGEST + 2 * AROUND + 2);

  /** Takes in HOP samples. */
  push(block: Float32Array): void {
    this.newest.push(block);
    decimate(this.newest.samples, BROAD, this.fresh);
    this.coarse.push(this.fresh);
    this.search();
  }

  private search(): void {
    const { alike, candidates } = this;
    const lastLag = this.hz > 0 ? SAMPLE_RATE_HZ / this.hz : 0;
    let best = this.coarseAlike();
    this.hz = 0;
    this.clarity = Math.max(0, best);
    this.unvoicedHops++;
    if (best < STILL_VOICED * NEAR) return;
    sumEnergies(this.newest.samples, this.energies);
    best *= NEAR;
    let count = 0;
    for (let lag = COARSE_SHORTEST; lag <= COARSE_LONGEST && count < CANDIDATES; lag++) {
      if (alike[lag]! >= best && alike[lag]! >= alike[lag - 1]! && alike[lag]! > alike[lag + 1]!) candidates[count++] = lag;
    }
    let worth = -Infinity;
    let asBefore = 0;
    let asMultiple = 0;
    const multipleCost = MULTIPLE_COST * Math.max(0, 1 - this.doubt / DOUBT);
    for (let c = 0; c < count; c++) {
      const near = candidates[c]! * DECIMATION;
      // Not even a perfect likeness would be worth more.
      if (worthOf(1, near - AROUND) + GOING_ON <= worth) break;
      const { lag, clarity } = this.measure(near);
      const goesOn = Math.abs(lag - lastLag) < GOING_ON_SHARE * lag;
      const isTwice = isMultiple(lag, lastLag);
      if (goesOn) asBefore = clarity;
      else if (isTwice) asMultiple = Math.max(asMultiple, clarity);
      const its = worthOf(clarity, lag) + (goesOn ? GOING_ON : 0) - (isTwice ? multipleCost : 0);
      if (its <= worth) continue;
      worth = its;
      this.hz = SAMPLE_RATE_HZ / lag;
      this.clarity = clarity;
    }
    this.doubt += ((asBefore > 0 ? Math.max(0, asMultiple - asBefore) : 0) - this.doubt) / DOUBT_HOPS;
    if (this.hz > 0) this.lookAbove();
    const goesOn = Math.abs(SAMPLE_RATE_HZ / this.hz - lastLag) < (GOING_ON_SHARE * SAMPLE_RATE_HZ) / this.hz;
    if (!goesOn) this.doubt = 0;
    const isVoiced = count > 0 && (goesOn ? this.clarity >= STILL_VOICED : this.clarity >= VOICED && (this.unvoicedHops < FROM_NOTHING_HOPS || this.comesAgain()));
    if (!isVoiced || this.hz < LEAST_HZ || this.hz > MOST_HZ) this.hz = 0;
    else this.refine();
    if (this.hz > 0) this.unvoicedHops = 0;
  }

  /**
   * Far above the first formant a tone is weak beside breath that rings in that formant, and a subharmonic near the formant looks more
   * alike. Emphasised, the breath is gone: then the highest tone that is as alike as the one found is meant.
   */
  private lookAbove(): void {
    const found = SAMPLE_RATE_HZ / this.hz;
    if (found < 2 * HIGHEST_LAG) return;
    const { samples } = this.newest;
    const { emphasised } = this;
    for (let i = 1; i < samples.length; i++) emphasised[i] = samples[i]! - EMPHASIS * samples[i - 1]!;
    const whole = this.emphasisedAlike(found);
    if (whole < VOICED) return;
    let worth = worthOf(whole, found);
    const { clarity: wanted } = this;
    for (let times = Math.floor(found / HIGHEST_LAG); times >= 2 && found / times <= TRAPPED_LAG; times--) {
      const lag = found / times;
      const its = worthOf(this.emphasisedAlike(lag), lag);
      if (its <= worth) continue;
      const { lag: measured, clarity } = this.measure(Math.round(lag));
      // One partial alone, emphasised in a high formant, is no tone: as it is sung there must be a peak too.
      if (Math.abs(measured - lag) > PEAK_SHARE * lag || clarity < TONE_SHARE * wanted) continue;
      worth = its;
      this.hz = SAMPLE_RATE_HZ / measured;
    }
  }

  /** How alike the emphasised tone is at a lag that lies between two samples. */
  private emphasisedAlike(lag: number): number {
    const at = Math.round(lag);
    const before = this.emphasisedAt(at - 1);
    const middle = this.emphasisedAt(at);
    const after = this.emphasisedAt(at + 1);
    if (middle < before || middle < after) return Math.max(before, middle, after);
    const off = vertex(before, middle, after);
    return middle - 0.25 * (before - after) * off;
  }

  private emphasisedAt(lag: number): number {
    const { emphasised } = this;
    const end = emphasised.length;
    let product = 0;
    let both = 0;
    for (let i = end - Math.max(WINDOW, lag); i < end; i++) {
      const now = emphasised[i]!;
      const then = emphasised[i - lag]!;
      product += now * then;
      both += now * now + then * then;
    }
    return both > 1e-12 ? (2 * product) / both : 0;
  }

  /** What is whispered rings for a period or so, and looks like a tone for a moment; a tone comes again after two periods too. Where it is clear, or too low for two, that is not asked. */
  private comesAgain(): boolean {
    if (this.clarity >= SURE) return true;
    const period = SAMPLE_RATE_HZ / this.hz;
    const window = Math.max(WINDOW, Math.round(period));
    const twice = Math.round(2 * period);
    if (twice + AROUND + window >= this.newest.samples.length) return true;
    for (let lag = twice - AROUND; lag <= twice + AROUND; lag++) if (this.alikeAt(lag, window) >= AGAIN) return true;
    return false;
  }

  /** Over several periods, where they are just as alike: then noise weighs less. */
  private refine(): void {
    const period = SAMPLE_RATE_HZ / this.hz;
    const several = Math.floor(SEVERAL / period);
    if (several < 2) return;
    const { lag, clarity } = this.measure(Math.round(several * period));
    if (clarity >= SEVERAL_ALIKE * this.clarity && Math.abs(lag / several - period) < 0.5) this.hz = SAMPLE_RATE_HZ * (several / lag);
  }

  /** How alike the decimated copy is at every lag; gives the best. */
  private coarseAlike(): number {
    const { alike, energy, coarse: { samples } } = this;
    const end = samples.length;
    sumEnergies(samples, energy);
    let best = 0;
    for (let lag = COARSE_SHORTEST - 1; lag <= COARSE_LONGEST + 1; lag++) {
      const window = Math.max(WINDOW / DECIMATION, Math.min(lag, COARSE_LONGEST));
      let product = 0;
      for (let i = end - window; i < end; i++) product += samples[i]! * samples[i - lag]!;
      const both = energy[window]! + energy[window + lag]! - energy[lag]!;
      alike[lag] = both > 1e-12 ? (2 * product) / both : 0;
      if (lag >= COARSE_SHORTEST && lag <= COARSE_LONGEST && alike[lag]! > best) best = alike[lag]!;
    }
    return best;
  }

  private readonly measured = { lag: 0, clarity: 0 };

  /** The period near a lag, at the full rate. The object given back is used again. */
  private measure(near: number): { lag: number; clarity: number } {
    const { around, measured } = this;
    const from = Math.max(1, near - AROUND - 1);
    let peak = 1;
    for (let i = 0; i < around.length; i++) {
      around[i] = this.alikeAt(from + i);
      if (i > 0 && i < around.length - 1 && around[i]! > around[peak]!) peak = i;
    }
    const off = vertex(around[peak - 1]!, around[peak]!, around[peak + 1]!);
    measured.lag = from + peak + off;
    measured.clarity = around[peak]! - 0.25 * (around[peak - 1]! - around[peak + 1]!) * off;
    return measured;
  }

  /** The normalised square difference at a lag, its energies taken from the sums. */
  private alikeAt(lag: number, window = Math.max(WINDOW, Math.min(lag, LONGEST))): number {
    const { energies, newest: { samples } } = this;
    const end = samples.length;
    let product = 0;
    for (let i = end - window; i < end; i++) product += samples[i]! * samples[i - lag]!;
    const both = energies[window]! + energies[window + lag]! - energies[lag]!;
    return both > 1e-12 ? (2 * product) / both : 0;
  }
}
