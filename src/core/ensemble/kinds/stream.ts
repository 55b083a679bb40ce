import { amount, choice, optional, yesOrNo } from '../../messages/shapes';
import { clamp } from '../../units/unitInterval';
import { nearestPitch, pitchesOf } from '../../voices/scale';
import type { KindOf, Playing } from '../kind';
import type { StreamPart } from '../parts';
import { HARMONIC_MODES } from '../theory/degrees';
import { everyBeats, gate, key, signal, stepShare, strike, tonic } from './shapes';

const REFERENCE_HZ = 440;
const SHORTEST = 0.1;
const LONGEST = 2;

/** The pitches that a part may play; reckoned once for each part that is edited, not at each step. */
const known = new WeakMap<StreamPart, Float64Array>();

function pitchesFor(part: StreamPart): Float64Array {
  const found = known.get(part);
  if (found) return found;
  const { low, high, tonic: root, mode } = part;
  const pitches = pitchesOf({ kind: 'mode', root, mode }, REFERENCE_HZ, null).filter((pitch) => pitch >= Math.min(low, high) && pitch <= Math.max(low, high));
  known.set(part, pitches);
  return pitches;
}

/** As the key of what a gate began. */
const BY_GATE = 0;

/** @param strength of the gate that asks for it, 1 where none does */
function playNote(play: Playing<StreamPart, object>, strength = 1): void {
  const { part } = play;
  const { low, high } = part;
  const place = low + play.level(part.pitch) * (high - low);
  const pitches = pitchesFor(part);
  const pitch = pitches.length > 0 ? nearestPitch(pitches, place) : Math.round(place);
  const hard = typeof part.strike === 'number' ? part.strike : play.level(part.strike.signal);
  const length = typeof part.length === 'number' ? part.length : SHORTEST + play.level(part.length.signal) * (LONGEST - SHORTEST);
  if (hard <= 0) return;
  const lasts = { beats: length * part.everyBeats };
  // One after another by a gate; by steps they may overlap.
  if (part.by === undefined) play.sound(pitch, clamp(hard, 0, 1), lasts);
  else play.sound(pitch, clamp(hard * strength, 0, 1), part.holds ? 'held' : lasts, BY_GATE);
}

const mayPlay = (play: Playing<StreamPart, object>) => play.part.while === undefined || play.isOn(play.part.while);

/** What a stream begins as, without its signals. */
export const STREAM_FIRST: Omit<StreamPart, 'pitch'> = { kind: 'stream', everyBeats: 0.5, low: 48, high: 84, tonic: 0, mode: 'major', strike: 0.7, length: 0.8 };

export const stream: KindOf<'stream', object> = {
  name: 'Stream',
  about: 'Plays notes at a tempo, or when a gate says so, with pitch, strike and length from signals.',
  fields: { everyBeats, pitch: signal, low: key, high: key, tonic, mode: choice('chromatic', ...HARMONIC_MODES), strike: amount(strike), length: amount(stepShare), while: gate, by: gate, holds: optional(yesOrNo) },
  fresh: ({ signals, derived }) => {
    const gate = signals.find(({ kind }) => kind === 'gate')?.id;
    return { ...STREAM_FIRST, pitch: ([...signals, ...derived].find(({ kind }) => kind === 'continuous') ?? signals[0])?.id ?? '', ...(gate !== undefined && { while: gate }) };
  },
  words: ({ pitch, by, while: gate }, nameOf) => `pitches from ${nameOf(pitch)}${by ? `, at ${nameOf(by)}` : ''}${gate ? `, while ${nameOf(gate)}` : ''}`,
  remember: () => ({}),
  // What a gate began is ended by that gate alone.
  holdsBy: ({ by, holds }) => `${by} ${holds === true}`,
  asksBy: ({ by, while: goes }, signal) => (by ?? goes) === signal,
  follow(play, signal, level, before) {
    const { part } = play;
    if (signal === part.while && !(level > 0)) play.endAll();
    if (signal !== part.by) return;
    const wasOn = before > 0;
    if (level > 0 && !wasOn && mayPlay(play) && (part.holds || !play.heldOn)) playNote(play, level);
    if (!(level > 0) && part.holds) play.end(BY_GATE);
  },
  // Without a gate it would never be still: then it goes with the transport.
  steps: {
    withTransport: false,
    everyBeats: ({ part }) => part.everyBeats,
    goesOn: (play) => play.part.by === undefined && (play.part.while === undefined ? play.running : play.isOn(play.part.while)),
    play: (play) => playNote(play),
  },
};
