import type { Amount } from '../signal/formulas/kind';
import type { HarmonicMode } from './theory/degrees';
import type { Order } from './theory/arpeggioOrder';
import type { Quality } from './theory/qualities';
import type { Spread } from './theory/voicing';

/** What a member of the ensemble does. Streams are ids of streams or of other members, signals ids of any signals. */
export type MemberPart = ChordPart | StrumPart | BassPart | ArpeggioPart | PatternPart | StreamPart | EchoPart;
export type PartKind = MemberPart['kind'];
export type PartOf<K extends PartKind> = Extract<MemberPart, { kind: K }>;

export const BEGINS = ['now', 'beat', 'bar'] as const;

/** One player of the ensemble. Its id is that of the stream that it makes. */
export interface RigMember {
  id: string;
  name: string;
  /** Off: it is not heard. Others that listen to it hear it still. */
  on: boolean;
  /** Where one is alone, those that are not are not heard. */
  alone?: boolean;
  /** Times the strike of everything. */
  level: number;
  octave: number;
  /** When it begins and changes while the transport runs. */
  begins: (typeof BEGINS)[number];
  /** Of each pair of steps the first takes this share. */
  swing: number;
  /** So much later everything comes; negative: sooner. */
  feelMs: number;
  part: MemberPart;
}

/** How a degree is chosen: by the voices of a stream, by gates, or by where a signal lies in its range. */
export type DegreeFrom = { by: 'stream'; stream: string } | { by: 'gates'; gates: { gate: string; degree: number }[] } | { by: 'signal'; signal: string; gate?: string };

export const CHORD_BASSES = ['none', 'root', 'third', 'fifth', 'tonic'] as const;

export const STAYS = ['nothing', 'for others', 'sounding'] as const;

export interface ChordPart {
  kind: 'chord';
  /** 0 = C. */
  tonic: number;
  mode: HarmonicMode;
  from: DegreeFrom;
  /** How many tones are stacked by thirds, where nothing else is asked for. */
  tones: number;
  /** Another kind of chord on every degree. */
  quality?: Quality;
  /** Others while a gate is on; the first that is on counts. */
  qualities?: { gate: string; quality: Quality }[];
  /** Chords of one's own: semitones above the tonic. */
  own?: { degree: number; tones: number[] }[];
  inversion: number;
  /** The inversion whose tones move the least, instead. */
  leads: boolean;
  spread: Spread;
  /** A tone of its own below all others. */
  bass: (typeof CHORD_BASSES)[number];
  low: number;
  /** What stays of it when it is let go, until the next: nothing, the chord for those that listen for one, or its sound too. */
  stays: (typeof STAYS)[number];
}

export interface StrumPart {
  kind: 'strum';
  listens: string;
  /** Strings are struck as this crosses them. */
  across?: string;
  /** On while a finger is on the strip: what it skips in the air strikes nothing. */
  touch?: string;
  /** Strikes all strings one after another. */
  by?: string;
  strings: number;
  /** Open strings; absent: tuned to the chord. */
  tuning?: number[];
  directions: 'both' | 'up' | 'down';
  /** So long a string rings; damped by the next chord, and by touch where that is wished. */
  ringMs: number;
  dampedBy: 'nothing' | 'chord' | 'letting go';
  /** As fast as the whole strip in so long is as hard as can be. */
  fullMs: number;
}

export const BASS_WAYS = ['root', 'fifth', 'octave', 'walk', 'pattern'] as const;
export const BASS_TONES = ['root', 'third', 'fifth', 'octave', 'rest'] as const;

export interface BassPart {
  kind: 'bass';
  listens: string;
  way: (typeof BASS_WAYS)[number];
  /** For the way `pattern`. */
  tones: (typeof BASS_TONES)[number][];
  low: number;
  everyBeats: number;
  /** Of a step. */
  length: number;
  strike: number;
  while?: string;
}

export interface ArpeggioPart {
  kind: 'arpeggio';
  listens: string;
  order: Order;
  octaves: number;
  everyBeats: number;
  /** Of a step. */
  length: number;
  /** Strikes by step, one after another, times that of what is held. */
  accents: number[];
  /** It goes on with what was let go, until something new is struck. */
  latch: boolean;
  while?: string;
}

/** Something struck in a lane: at a step, so hard, for so many steps, with a chance, and so many times within the step. */
export interface Hit {
  at: number;
  strike: number;
  lasts: number;
  chance?: number;
  times?: number;
}

/** A row of a pattern, of a length of its own: one key, or the tone of the chord that is listened to, counted from the lowest. */
export interface Lane {
  name: string;
  plays: { note: number } | { tone: number };
  length: number;
  hits: Hit[];
}

export interface Pattern {
  name: string;
  lanes: Lane[];
}

export interface PatternPart {
  kind: 'pattern';
  everyBeats: number;
  /** For lanes that play tones of a chord. */
  listens?: string;
  patterns: Pattern[];
  /** The one that plays, by its place. */
  present: number;
  /** A signal that chooses it instead, by where it lies in its range. */
  chosenBy?: string;
  /** Plays another while a gate is on. */
  fill?: { gate: string; pattern: number };
  while?: string;
}

export interface StreamPart {
  kind: 'stream';
  everyBeats: number;
  pitch: string;
  low: number;
  high: number;
  tonic: number;
  mode: HarmonicMode | 'chromatic';
  /** 0 to 1, or a signal. */
  strike: Amount;
  /** Of a step; a signal goes from a tenth of one to two. */
  length: Amount;
  /** Only while this is on; where it goes off, what sounds ends. */
  while?: string;
  /** A note each time this goes on, instead of one a step. */
  by?: string;
  /** What a gate began sounds as long as that is on, however long a step is. */
  holds?: boolean;
}

export interface EchoPart {
  kind: 'echo';
  listens: string;
  times: number;
  everyBeats: number;
  /** Each time so much softer: times this. */
  softer: number;
  /** The chance that one comes at all, times this each time. */
  fewer: number;
  transpose: number;
}
