import { choice, list, loose, object, optional, whole, yesOrNo } from '../../messages/shapes';
import { CHORD_BASSES, STAYS, type ChordPart } from '../parts';
import { DEGREES, HARMONIC_MODES, nearestDegree, OCTAVE, stackedThirds, stepOf } from '../theory/degrees';
import { namesIn } from '../theory/spelling';
import { intervalsOf, QUALITIES } from '../theory/qualities';
import { closePosition, firstFrom, leastMovement, SPREADS, spreadOut } from '../theory/voicing';
import { step } from '../../shaping/steps';
import type { Harmony, KindOf, Playing } from '../kind';
import { key, signal, streamId, tonic } from './shapes';

/** A degree that is asked for, by whom, and how hard. */
interface Asked {
  by: number;
  degree: number;
  strike: number;
}

interface Memory {
  /** Those that are held, the newest last. */
  asked: Asked[];
  /** What was asked for last; one that stays is taken although it was let go of before its time came. */
  last: Asked | null;
  /** The one that sounds, or would: what is said to others. */
  now: { degree: number; root: number; tones: number[]; close: number[] } | null;
  soundsDegree: number;
}

type Play = Playing<ChordPart, Memory>;

const NOTHING = 0;
/** So far past its border, in degrees, a signal asks for the next: one that trembles there would strike two chords in turn. */
const HYSTERESIS = 0.15;
/** As the number of whoever asks by a signal. */
const SIGNAL = -1;
/** What a chord is struck with where nothing says how hard. */
const STRIKE = 100 / 127;
const LOWEST = 0;
const HIGHEST = 127;

/** What the degree is made of, in semitones above the tonic, and its root there. */
export function chordOfDegree(part: ChordPart, degree: number, isOn: (gate: string) => boolean): { root: number; tones: number[] } {
  const own = part.own?.find((chord) => chord.degree === degree);
  if (own) return { root: Math.min(...own.tones), tones: own.tones };
  const root = stepOf(part.mode, degree);
  const quality = part.qualities?.find(({ gate }) => isOn(gate))?.quality ?? part.quality;
  return { root, tones: quality ? intervalsOf(quality).map((interval) => root + interval) : stackedThirds(part.mode, degree, part.tones) };
}

/** The tones of a degree as they sound. @param before the last chord in close position, from where it is led */
export function voiceChord(part: ChordPart, degree: number, isOn: (gate: string) => boolean, before: readonly number[] | null): { root: number; tones: number[]; close: number[] } {
  const chord = chordOfDegree(part, degree, isOn);
  const root = part.tonic + chord.root;
  const intervals = chord.tones.map((tone) => tone - chord.root);
  const close = part.leads && before ? leastMovement(root, intervals, part.low, before) : closePosition(root, intervals, part.low, part.inversion);
  const tones = spreadOut(close, part.spread);
  const bass = bassOf(part, root, intervals);
  if (bass !== null) {
    const under = firstFrom(Math.min(...tones) - OCTAVE, bass);
    if (!tones.includes(under)) tones.unshift(under);
  }
  return { root: ((root % OCTAVE) + OCTAVE) % OCTAVE, tones: tones.filter((tone) => tone >= LOWEST && tone <= HIGHEST), close };
}

/** The third or fifth is the tone of the chord that lies nearest to one: a suspended chord has its fourth there. */
function bassOf({ bass, tonic: key0 }: ChordPart, root: number, intervals: readonly number[]): number | null {
  const nearest = (interval: number) => root + intervals.reduce((best, next) => (Math.abs(next - interval) < Math.abs(best - interval) ? next : best));
  switch (bass) {
    case 'none':
      return null;
    case 'root':
      return root;
    case 'third':
      return nearest(4);
    case 'fifth':
      return nearest(7);
    case 'tonic':
      return key0;
    default:
      return bass satisfies never;
  }
}

/** Computes the chord that is asked for last; what sounds follows in time. */
function settle(play: Play): void {
  const { memory, part } = play;
  const held = memory.asked.at(-1) ?? null;
  const asked = held ?? (part.stays === 'nothing' ? null : memory.last);
  if (!asked) {
    if (part.stays === 'nothing') memory.now = null;
    return fallSilent(play);
  }
  const { degree, strike } = asked;
  const before = memory.now?.close ?? null;
  const next = voiceChord(part, degree, (gate) => play.isOn(gate), before);
  if (!held && part.stays !== 'sounding') {
    memory.now = { degree, ...next };
    return fallSilent(play);
  }
  const same = memory.now !== null && memory.soundsDegree === degree && next.tones.join() === memory.now.tones.join();
  if (same) return;
  memory.now = { degree, ...next };
  memory.soundsDegree = degree;
  // Tones that both have are struck again, as a hand would.
  play.endAll();
  for (const tone of next.tones) play.sound(tone, strike, 'held');
}

function fallSilent(play: Play): void {
  play.memory.soundsDegree = NOTHING;
  play.endAll();
}

/** Somebody asks for a degree, or with null does so no more. */
function ask(play: Play, by: number, degree: number | null, strike: number): void {
  const { memory } = play;
  memory.asked = memory.asked.filter((asked) => asked.by !== by);
  if (degree !== null) {
    memory.last = { by, degree, strike };
    memory.asked.push(memory.last);
    // The same chord struck once more sounds once more; one that stays was not struck by being held on.
    if (!play.heldOn || play.part.stays !== 'sounding') memory.soundsDegree = NOTHING;
  }
  play.wakeInTime();
}

export const chord: KindOf<'chord', Memory> = {
  name: 'Chord',
  about: 'Plays the chord of a degree of a key: chosen by pads, keys, a voice or any signal.',
  fields: {
    tonic,
    mode: choice(...HARMONIC_MODES),
    from: { is: 'tagged', tag: 'by', cases: { stream: { stream: streamId }, gates: { gates: loose(object({ gate: signal, degree: whole(1, 2 * DEGREES) }), 4 * DEGREES) }, signal: { signal, gate: optional(signal) } } },
    tones: whole(2, DEGREES),
    quality: optional(choice(...QUALITIES)),
    qualities: optional(loose(object({ gate: signal, quality: choice(...QUALITIES) }), 16)),
    own: optional(list(object({ degree: whole(1, DEGREES), tones: list(whole(-24, 48), 1, 12) }), 0, DEGREES)),
    inversion: whole(0, DEGREES - 1),
    leads: yesOrNo,
    spread: choice(...SPREADS),
    bass: choice(...CHORD_BASSES),
    low: key,
    stays: choice(...STAYS),
  },
  fresh: (rig) => ({ kind: 'chord', tonic: 0, mode: 'major', from: firstFromOf(rig), tones: 3, inversion: 0, leads: true, spread: 'close', bass: 'none', low: 55, stays: 'nothing' }),
  words({ tonic: key0, mode, tones, quality, from }, nameOf) {
    const by = from.by === 'stream' ? nameOf(from.stream) : from.by === 'gates' ? `${from.gates.length} gates` : nameOf(from.signal);
    return `${namesIn(key0, mode)[key0]} ${mode}, ${quality ?? `${tones} tones`}, by ${by}`;
  },
  remember: () => ({ asked: [], last: null, now: null, soundsDegree: NOTHING }),
  // Who asked by one way could not let go of it by another.
  holdsBy: ({ from }) => JSON.stringify(from),
  // A chord that stays is still there for others, though it sounds no more.
  rest: ({ now }, { stays }) => ({ asked: [], last: null, now: stays === 'nothing' ? null : now, soundsDegree: NOTHING }),
  hear(play, stream, { voice, pitch, strike }, on) {
    const { part } = play;
    if (part.from.by === 'stream' && part.from.stream === stream) ask(play, voice, on ? nearestDegree(part.tonic, part.mode, pitch) : null, strike);
  },
  moved: (play, pressure, slide) => play.move(pressure, slide),
  // One that stayed does so no longer; but no edit strikes one.
  edited(play) {
    if (play.memory.asked.length === 0 && play.part.stays !== 'sounding') settle(play);
  },
  asksBy: ({ from }, signal) => (from.by === 'gates' && from.gates.some(({ gate }) => gate === signal)) || (from.by === 'signal' && from.gate === signal),
  isHeldOn: (play) => play.part.from.by === 'signal' && play.part.from.gate !== undefined && play.isOn(play.part.from.gate),
  follow(play, moved, level, before) {
    const { from, qualities } = play.part;
    if (from.by === 'gates') {
      from.gates.forEach(({ gate, degree }, i) => {
        if (gate === moved && level > 0 !== before > 0) ask(play, SIGNAL - i, level > 0 ? degree : null, level || STRIKE);
      });
    } else if (from.by === 'signal') {
      const on = from.gate === undefined || play.isOn(from.gate);
      const now = play.memory.asked.at(-1)?.degree ?? null;
      const degree = on ? 1 + step(play.level(from.signal), DEGREES, HYSTERESIS, now === null ? -1 : now - 1) : null;
      if ((moved === from.signal || moved === from.gate) && degree !== now) ask(play, SIGNAL, degree, STRIKE);
    }
    if (qualities?.some(({ gate }) => gate === moved) && level > 0 !== before > 0 && play.memory.asked.length > 0) play.wakeInTime();
  },
  wake: settle,
  harmony: ({ now }): Harmony | null => now && now.tones.length > 0 ? { root: now.root, tones: now.tones } : null,
};

function firstFromOf({ streams, signals, derived }: Parameters<typeof chord.fresh>[0]): ChordPart['from'] {
  const stream = streams.find(({ hidden }) => !hidden) ?? streams[0];
  if (stream) return { by: 'stream', stream: stream.id };
  const gates = signals.filter(({ kind }) => kind === 'gate').slice(0, DEGREES);
  return gates.length > 0 ? { by: 'gates', gates: gates.map(({ id }, i) => ({ gate: id, degree: i + 1 })) } : { by: 'signal', signal: [...signals, ...derived][0]?.id ?? '' };
}
