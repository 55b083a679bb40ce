import { pitchOfHz } from '../voices/pitch';
import { HOP, HOP_MS, Newest } from './audio';
import { Level } from './level';
import { Onsets } from './mouth/onsets';
import { KNOWN_MS, SOUND_FEATURES, SoundFeatures } from './mouth/soundFeatures';
import { SoundBook, type TaughtSound } from './mouth/taughtSounds';
import { NOTE_SETTINGS, Segmenter, type NoteSettings } from './notes/segmenter';
import { PitchTracker } from './pitch/pitchTracker';
import { DECIMATION, decimate, lowPass } from './spectrum/decimator';
import { FORMANT_WINDOW, OpenFront } from './vowels/openFront';
import { vowelAmounts, type TaughtVowels } from './vowels/taughtVowels';
import { VowelsBefore } from './vowels/vowelsBefore';
import { VowelFeatures } from './vowels/vowelFeatures';

export interface ListenerSettings {
  notes: NoteSettings;
  /** Semitones that sung notes are moved by: octaves of twelve. */
  shift: number;
  /** Whether the pitch of a note is that of the scale, vibrato and glides kept around it; else as it is sung. */
  snaps: boolean;
  /** Whether a note moves once it has begun. */
  bends: boolean;
  /** What is sung softly and loudly, in dB: a strike or pressure of 0 and of 1. */
  softDb: number;
  loudDb: number;
  /** What is softer than this is no mouth sound, in dB. */
  floorDb: number;
  /** By semitone above C: what sounds with a note, in semitones above it; null where single notes are sung. */
  chords: readonly (readonly number[])[] | null;
  vowels: TaughtVowels | null;
  sounds: readonly TaughtSound[];
}

export const LISTENER_SETTINGS: ListenerSettings = { notes: NOTE_SETTINGS, shift: 0, snaps: false, bends: true, softDb: -45, loudDb: -10, floorDb: -65, chords: null, vowels: null, sounds: [] };

/** What is told as it is heard; times in ms of audio that has been taken in. */
export interface ListenerSink {
  begins(voice: number, pitch: number, strike: number): void;
  /** Each hop of a note that sounds. */
  moves(voice: number, pitch: number, pressure: number): void;
  ends(voice: number): void;
  /** A mouth sound; null: one that is none of those that were taught. */
  strikes(sound: string | null, strength: number, onsetMs: number): void;
}

/** Above this partials lie too far apart to say what the mouth does. */
export const VOWELS_BELOW_HZ = 400;
/** Vowels are looked at every so many hops, formants every so many. */
const VOWEL_HOPS = 2;
const FORMANT_HOPS = 4;
/** Who has sung for so long goes on singing: what is struck meanwhile is a consonant. */
const SINGS_MS = 60;
/** After a mouth sound nothing is sung for so long, however much its tail hums. */
const TAIL_MS = 110;
/** What lies around a note of the scale follows this slowly, so that vibrato stays and drift goes. */
const SNAP_MS = 250;
/** So much is kept: the longest that anything looks at. */
const KEPT = 4096;
const WHOLE = lowPass(0.9);
const CLASSES = 12;
const NO_CHORD: readonly number[] = [];
const LEAST_STRIKE = 0.05;
/** As alike as this it was nearly a pitch. */
const UNCLEAR = 0.7;
const LESS_CLEAR = 0.1;

/**
 * Everything that is heard of a microphone, hop by hop: pitch, loudness, vowels and mouth sounds, and the notes that are made of them.
 * The same sums live and from a file. Its fields hold for the newest hop.
 */
export class Listener {
  timeMs = 0;
  vowel: number | null = null;
  /** By vowel that was taught: how much of it, together 1. */
  amounts = new Float64Array(0);
  /** Whether the vowels stand still because what is sung is too high for them. */
  vowelsHold = false;
  readonly level = new Level();
  readonly pitch = new PitchTracker();
  readonly openFront = new OpenFront();
  /** Since when there has been a pitch, -1 where there is none. */
  private pitchSinceMs = -1;
  private readonly block = new Float32Array(HOP);
  private readonly newest = new Newest(KEPT);
  private readonly fresh = new Float32Array(HOP / DECIMATION);
  private readonly decimated = new Newest(FORMANT_WINDOW + 1);
  private readonly vowelFeatures = new VowelFeatures();
  private readonly onsets: Onsets;
  private readonly soundFeatures = new SoundFeatures();
  private readonly features = new Float64Array(SOUND_FEATURES);
  private readonly segmenter: Segmenter;
  private book: SoundBook;
  private vowelsBefore = new VowelsBefore(0);
  private voices = 0;
  private sounding = { voice: 0, note: 0, centre: 0, with: NO_CHORD };
  private hops = 0;
  /** An onset that is not known yet: when it was, and the loudest since. */
  private waitsMs = NaN;
  private peakDb = -Infinity;
  private tailUntilMs = -Infinity;

  constructor(
    private settings: ListenerSettings,
    private readonly sink: ListenerSink,
  ) {
    this.onsets = new Onsets(settings.floorDb);
    this.book = new SoundBook(settings.sounds);
    this.forgetVowels(settings);
    this.segmenter = new Segmenter(settings.notes, { begins: (note, sung) => this.begin(note, sung), moves: (sung) => this.move(sung), ends: () => this.end() });
  }

  /** From now on listens otherwise; what sounds goes on. */
  set(settings: ListenerSettings): void {
    if (settings.sounds !== this.settings.sounds) this.book = new SoundBook(settings.sounds);
    if (settings.vowels !== this.settings.vowels) this.forgetVowels(settings);
    this.onsets.floorDb = settings.floorDb;
    this.segmenter.settings = settings.notes;
    this.settings = settings;
  }

  private forgetVowels({ vowels }: ListenerSettings): void {
    this.amounts = new Float64Array(vowels?.vowels.length ?? 0);
    this.vowelsBefore = new VowelsBefore(this.amounts.length);
    this.vowel = null;
  }

  /** Why no note sounds now, in a few words; null where one does, or nobody sings. */
  get whyNot(): string | null {
    if (this.segmenter.sounds || this.level.db < this.settings.floorDb) return null;
    if (this.level.db < this.settings.notes.gateDb) return 'softer than the gate';
    if (!Number.isNaN(this.waitsMs) || this.timeMs < this.tailUntilMs) return 'struck, not sung';
    if (this.pitch.hz === 0) return this.pitch.clarity > UNCLEAR ? 'not clear enough' : 'no pitch';
    return 'on its way, or fading';
  }

  /** Ends what sounds. */
  stop(): void {
    this.segmenter.end();
  }

  /** The features of the vowel that sounds now, to be taught; used again. Null where none does, or it is too high to be one. */
  get vowelNow(): Float64Array | null {
    return this.pitch.hz > 0 && this.pitch.hz <= VOWELS_BELOW_HZ ? this.vowelFeatures.look(this.newest.samples) : null;
  }

  /** The features of the sound that was struck last, to be taught; used again. */
  get soundNow(): Float64Array {
    return this.features;
  }

  /** Takes in HOP samples; what is no number counts as silence. */
  push(heard: Float32Array): void {
    this.timeMs = ++this.hops * HOP_MS;
    const { block } = this;
    for (let i = 0; i < block.length; i++) block[i] = Number.isFinite(heard[i]!) ? heard[i]! : 0;
    this.newest.push(block);
    this.level.push(block);
    this.pitch.push(block);
    decimate(this.newest.samples, WHOLE, this.fresh);
    this.decimated.push(this.fresh);
    const { notes } = this.settings;
    const sung = this.pitch.hz > 0 ? pitchOfHz(this.pitch.hz) : NaN;
    // A note that sounds may be a little less clear.
    const wanted = this.segmenter.sounds ? notes.clarity - LESS_CLEAR : notes.clarity;
    const isSung = sung >= notes.low && sung <= notes.high && this.pitch.clarity >= wanted && this.level.db >= notes.gateDb;
    if (!isSung) this.pitchSinceMs = -1;
    else if (this.pitchSinceMs < 0) this.pitchSinceMs = this.timeMs;
    this.lookAtVowel(isSung);
    this.listenForStrikes();
    // While something was struck that may be a mouth sound, or fades, nobody has begun to sing.
    const mayBegin = this.segmenter.sounds || (Number.isNaN(this.waitsMs) && this.timeMs >= this.tailUntilMs);
    this.segmenter.hop(isSung && mayBegin ? sung : NaN, this.level.db);
  }

  private begin(note: number, sung: number): void {
    const { sounding } = this;
    sounding.voice = ++this.voices;
    sounding.note = note;
    sounding.centre = sung;
    sounding.with = this.settings.chords?.[((Math.round(note) % CLASSES) + CLASSES) % CLASSES] ?? NO_CHORD;
    const strike = Math.max(LEAST_STRIKE, this.loudness(this.level.db));
    this.sink.begins(sounding.voice, this.pitchOf(sung), strike);
    for (const above of sounding.with) this.sink.begins(++this.voices, this.pitchOf(sung) + above, strike);
  }

  private end(): void {
    const { sounding } = this;
    for (let i = 0; i <= sounding.with.length; i++) this.sink.ends(sounding.voice + i);
  }

  private move(sung: number): void {
    const { sounding } = this;
    sounding.centre += (sung - sounding.centre) * (1 - Math.exp(-HOP_MS / SNAP_MS));
    const pitch = this.pitchOf(sung);
    const pressure = this.loudness(this.level.db);
    this.sink.moves(sounding.voice, pitch, pressure);
    for (let i = 0; i < sounding.with.length; i++) this.sink.moves(sounding.voice + 1 + i, pitch + sounding.with[i]!, pressure);
  }

  private pitchOf(sung: number): number {
    const { snaps, shift, bends } = this.settings;
    if (!bends) return this.sounding.note + shift;
    return shift + (snaps ? this.sounding.note + sung - this.sounding.centre : sung);
  }

  /** A level between what is soft and what is loud, 0 to 1. */
  private loudness(db: number): number {
    const { softDb, loudDb } = this.settings;
    return Math.max(0, Math.min(1, (db - softDb) / Math.max(1, loudDb - softDb)));
  }

  private lookAtVowel(isSung: boolean): void {
    const { vowels } = this.settings;
    const held = this.vowelsHold;
    this.vowelsHold = isSung && this.pitch.hz > VOWELS_BELOW_HZ;
    if (!isSung) this.vowel = null;
    if (this.vowelsHold && !held) this.vowel = this.vowelsBefore.back(this.amounts);
    if (!isSung || this.vowelsHold) return;
    if (this.hops % FORMANT_HOPS === 0) this.openFront.look(this.decimated.samples);
    if (vowels && vowels.vowels.length > 0 && (this.hops % VOWEL_HOPS === 0 || this.vowel === null)) {
      this.vowel = vowelAmounts(vowels, this.vowelFeatures.look(this.newest.samples), this.amounts);
      this.vowelsBefore.keep(this.vowel, this.amounts);
    }
  }

  private listenForStrikes(): void {
    if (this.onsets.hop(this.newest.samples, this.timeMs) && !this.sings(SINGS_MS)) {
      this.waitsMs = this.onsets.onsetMs;
      this.peakDb = -Infinity;
    }
    if (Number.isNaN(this.waitsMs)) return;
    this.peakDb = Math.max(this.peakDb, this.level.db);
    const sinceMs = this.timeMs - this.waitsMs;
    if (sinceMs < KNOWN_MS) return;
    this.soundFeatures.look(this.newest.samples, sinceMs, this.features);
    const sound = this.book.know(this.features);
    if (sound !== null) this.tailUntilMs = this.waitsMs + TAIL_MS;
    this.sink.strikes(sound, this.loudness(this.peakDb), this.waitsMs);
    this.waitsMs = NaN;
  }

  /** Whether somebody has sung for so long, and still does. */
  private sings(forMs: number): boolean {
    return this.segmenter.sounds && this.pitchSinceMs >= 0 && this.timeMs - this.pitchSinceMs >= forMs;
  }
}
