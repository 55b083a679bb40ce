/**
 * Formants of vowels in Hz: means of men and of women (Peterson and Barney, "Control methods used in a study of the vowels", JASA 24,
 * 1952, table II; from memory of it), and of others forty years later (Hillenbrand, Getty, Clark and Wheeler, "Acoustic characteristics
 * of American English vowels", JASA 97, 1995, table V; from memory of it). The keys are how the vowel is spelled in the word they read.
 */
export const FORMANTS = {
  men: { heed: [270, 2290, 3010], hid: [390, 1990, 2550], head: [530, 1840, 2480], had: [660, 1720, 2410], hod: [730, 1090, 2440], hawed: [570, 840, 2410], hood: [440, 1020, 2240], whod: [300, 870, 2240], hud: [640, 1190, 2390], heard: [490, 1350, 1690] },
  women: { heed: [310, 2790, 3310], hid: [430, 2480, 3070], head: [610, 2330, 2990], had: [860, 2050, 2850], hod: [850, 1220, 2810], hawed: [590, 920, 2710], hood: [470, 1160, 2680], whod: [370, 950, 2670], hud: [760, 1400, 2780], heard: [500, 1640, 1960] },
  laterMen: { heed: [342, 2322, 3000], hid: [427, 2034, 2684], head: [580, 1799, 2605], had: [588, 1952, 2601], hod: [768, 1333, 2522], hawed: [652, 997, 2538], hood: [469, 1122, 2434], whod: [378, 997, 2343], hud: [623, 1200, 2550], heard: [474, 1379, 1710] },
  laterWomen: { heed: [437, 2761, 3372], hid: [483, 2365, 3053], head: [731, 2058, 2979], had: [669, 2349, 2972], hod: [936, 1551, 2815], hawed: [781, 1136, 2824], hood: [519, 1225, 2827], whod: [459, 1105, 2735], hud: [753, 1426, 2933], heard: [523, 1588, 1929] },
} as const;
export type Tract = keyof typeof FORMANTS;
export type Vowel = keyof (typeof FORMANTS)['men'];

/** Two more formants that hardly change, and the bandwidths of all (Fant 1960, common practice). */
const HIGHER = { men: [3500, 4500], women: [4000, 5000], laterMen: [3500, 4500], laterWomen: [4000, 5000] } as const;
const BANDWIDTHS = [70, 90, 130, 200, 250];

/** A resonance of second order, its frequency free to move. */
class Resonator {
  private a = 0;
  private b = 0;
  private c = 0;
  private y1 = 0;
  private y2 = 0;

  tune(hz: number, bandwidthHz: number, rateHz: number): void {
    const r = Math.exp((-Math.PI * bandwidthHz) / rateHz);
    this.c = -r * r;
    this.b = 2 * r * Math.cos((2 * Math.PI * hz) / rateHz);
    this.a = 1 - this.b - this.c;
  }

  step(x: number): number {
    const y = this.a * x + this.b * this.y1 + this.c * this.y2;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}

/** What shapes the sound of a throat: five resonances in a row (Klatt, "Software for a cascade/parallel formant synthesizer", JASA 67, 1980). */
export class VocalTract {
  private readonly resonators = BANDWIDTHS.map(() => new Resonator());
  private readonly now: number[];

  constructor(
    private readonly tract: Tract,
    private readonly rateHz: number,
    /** A longer or shorter throat: all its resonances times this. */
    private readonly scale = 1,
  ) {
    this.now = [...this.formants('hud')];
  }

  formants(vowel: Vowel): number[] {
    return [...FORMANTS[this.tract][vowel], ...HIGHER[this.tract]].map((hz) => hz * this.scale);
  }

  /** Goes a share of the way to a vowel. */
  towards(vowel: Vowel, share: number): void {
    const to = this.formants(vowel);
    for (let i = 0; i < this.now.length; i++) {
      this.now[i]! += share * (to[i]! - this.now[i]!);
      this.resonators[i]!.tune(this.now[i]!, BANDWIDTHS[i]! * this.scale, this.rateHz);
    }
  }

  step(source: number): number {
    let sound = source;
    for (const resonator of this.resonators) sound = resonator.step(sound);
    return sound;
  }
}
