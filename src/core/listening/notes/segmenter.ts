import { HOP_MS } from '../audio';
import { hzOfPitch } from '../../voices/pitch';
import { nearestPitch } from '../../voices/scale';

/** How what is sung becomes notes. */
export interface NoteSettings {
  /** Pitches of the scale that notes are of, rising, in semitones; empty: any pitch is a note. */
  pitches: Float64Array;
  /** Softer than this nothing is sung. */
  gateDb: number;
  /** A note goes on while what is sung stays this near to where it lies. */
  holdCents: number;
  /** A pitch must stay as long as this to be a note. */
  leastMs: number;
  /** A dip and a rise of this much strike the same note again. */
  dipDb: number;
  /** What is less like itself a period ago is not heard, nor what lies outside of these pitches. */
  clarity: number;
  low: number;
  high: number;
  /** Whether a note that is begun glides along for ever, rather than stepping to the next. */
  glides: boolean;
}

export const NOTE_SETTINGS: NoteSettings = { pitches: Float64Array.from({ length: 128 }, (_, key) => key), gateDb: -50, holdCents: 60, leastMs: 10, dipDb: 6, glides: false, clarity: 0.9, low: 23.5, high: 96.5 };

export interface NoteSink {
  /** @param note in semitones, as the scale has it; `sung` as it is */
  begins(note: number, sung: number): void;
  moves(sung: number): void;
  ends(): void;
}

/** Without a pitch for so long a note is over; shorter gaps are consonants, or the moment between two pitches. */
const GAP_MS = 40;
const SOFT_MS = 20;
/** What changes faster is on its way from one note to another: cents a second. */
const ON_ITS_WAY = 1500;
/** Where a note lies follows what is sung this slowly, so that vibrato leaves it where it is. */
const CENTRE_MS = 200;
/** A rise after a dip counts if it comes within this. */
const DIP_MS = 300;
/** And then waits so long for the pitch to stay. */
const AGAIN_MS = 60;
/** How loud a note is follows this slowly. */
const LOUD_MS = 60;
/** What rings on after a note or a strike falls by more than this in so many hops, and is no note that begins. */
const FADES_DB = 2.5;
const FADES_HOPS = 6;
/** What seems to have leapt by an octave must stay longer: noise and the moment between two notes look so. */
const OCTAVE = 12;
const OCTAVE_NEAR = 0.6;
const OCTAVE_TIMES = 1.6;
/** Between two low pitches the window that measures them holds a bit of both for about so many periods. */
const PERIODS = 1.3;
const RING = 64;

/**
 * Makes notes of pitches, hop by hop. A note begins once a pitch has stayed; it ends with a gap, or where another pitch has stayed
 * that is another note. A wobble within the hold band is the same note.
 */
export class Segmenter {
  private readonly ring = new Float64Array(RING).fill(NaN);
  private readonly levels = new Float64Array(RING).fill(-120);
  private place = 0;
  private timeMs = 0;
  private note = NaN;
  private centre = NaN;
  private gapMs = 0;
  private softMs = 0;
  private loudDb = -120;
  private lowestDb = Infinity;
  private lowestMs = 0;
  private againUntilMs = -Infinity;

  constructor(
    public settings: NoteSettings,
    private readonly sink: NoteSink,
  ) {}

  get sounds(): boolean {
    return !Number.isNaN(this.note);
  }

  /** One hop. @param sung in semitones, NaN where nothing has a pitch */
  hop(sung: number, levelDb: number): void {
    this.timeMs += HOP_MS;
    const { settings } = this;
    const heard = levelDb >= settings.gateDb ? sung : NaN;
    this.ring[this.place] = heard;
    this.levels[this.place] = levelDb;
    this.place = (this.place + 1) % RING;
    this.gapMs = Number.isNaN(heard) ? this.gapMs + HOP_MS : 0;
    this.softMs = levelDb < settings.gateDb ? this.softMs + HOP_MS : 0;
    if (this.sounds && (this.gapMs > GAP_MS || this.softMs > SOFT_MS)) return this.end();
    if (this.isStruckAgain(levelDb)) this.againUntilMs = this.timeMs + AGAIN_MS;
    const again = this.timeMs < this.againUntilMs;
    if (Number.isNaN(heard)) return;
    const stays = this.fades() ? NaN : this.stays(heard);
    if (!this.sounds) {
      if (!Number.isNaN(stays)) this.begin(stays, levelDb);
      return;
    }
    if (!Number.isNaN(stays)) {
      const next = this.noteAt(stays);
      const leap = Math.abs(Math.abs(stays - this.centre) - OCTAVE) < OCTAVE_NEAR ? this.stays(heard, OCTAVE_TIMES) : stays;
      const another = !settings.glides && !Number.isNaN(leap) && next !== this.note && Math.abs(stays - this.centre) * 100 > settings.holdCents;
      if (another || again) {
        this.sink.ends();
        return this.begin(stays, levelDb);
      }
      this.centre += (stays - this.centre) * (1 - Math.exp(-HOP_MS / CENTRE_MS));
    }
    this.sink.moves(heard);
  }

  /** Ends what sounds: the microphone goes, or something else is heard. */
  end(): void {
    if (!this.sounds) return;
    this.note = NaN;
    this.sink.ends();
  }

  private begin(stays: number, levelDb: number): void {
    this.againUntilMs = -Infinity;
    this.note = this.noteAt(stays);
    this.centre = stays;
    this.loudDb = levelDb;
    this.lowestDb = Infinity;
    this.sink.begins(this.note, stays);
  }

  private noteAt(sung: number): number {
    const { pitches } = this.settings;
    return pitches.length > 0 ? nearestPitch(pitches, sung) : sung;
  }

  /** The pitch that has stayed as long as it must; NaN where none has. */
  private stays(heard: number, times = 1): number {
    const hops = Math.min(RING, Math.ceil((times * Math.max(this.settings.leastMs, PERIODS * periodMs(heard))) / HOP_MS));
    let least = Infinity;
    let most = -Infinity;
    let sum = 0;
    for (let i = 1; i <= hops; i++) {
      const pitch = this.ring[(this.place - i + RING) % RING]!;
      if (Number.isNaN(pitch)) return NaN;
      if (pitch < least) least = pitch;
      if (pitch > most) most = pitch;
      sum += pitch;
    }
    // Longer than a tenth of a second a vibrato may be among it.
    const mayVary = Math.min(0.75, Math.max(0.18, (ON_ITS_WAY / 1e5) * hops * HOP_MS));
    return most - least <= mayVary ? sum / hops : NaN;
  }

  private fades(): boolean {
    return this.levels[(this.place - 1 + RING) % RING]! < this.levels[(this.place - 1 - FADES_HOPS + RING) % RING]! - FADES_DB;
  }

  /** Whether the level has dipped and come back since the note began. */
  private isStruckAgain(levelDb: number): boolean {
    if (!this.sounds) return false;
    const { dipDb } = this.settings;
    if (levelDb < this.lowestDb && levelDb < this.loudDb - dipDb) {
      this.lowestDb = levelDb;
      this.lowestMs = this.timeMs;
    }
    const isBack = levelDb >= this.lowestDb + dipDb * 0.8 && this.timeMs - this.lowestMs < DIP_MS;
    if (isBack) this.lowestDb = Infinity;
    else if (this.timeMs - this.lowestMs >= DIP_MS) this.lowestDb = Infinity;
    if (this.lowestDb === Infinity) this.loudDb += (levelDb - this.loudDb) * (1 - Math.exp(-HOP_MS / LOUD_MS));
    return isBack;
  }
}

const periodMs = (pitch: number) => 1000 / hzOfPitch(pitch);
