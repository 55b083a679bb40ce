import { amount, choice } from '../../messages/shapes';
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

function playStep(play: Playing<StreamPart, object>): void {
  const { part } = play;
  const { low, high } = part;
  const place = low + play.level(part.pitch) * (high - low);
  const pitches = pitchesFor(part);
  const pitch = pitches.length > 0 ? nearestPitch(pitches, place) : Math.round(place);
  const hard = typeof part.strike === 'number' ? part.strike : play.level(part.strike.signal);
  const length = typeof part.length === 'number' ? part.length : SHORTEST + play.level(part.length.signal) * (LONGEST - SHORTEST);
  if (hard > 0) play.sound(pitch, clamp(hard, 0, 1), { beats: length * part.everyBeats });
}

export const stream: KindOf<'stream', object> = {
  name: 'Stream',
  about: 'Plays notes at a tempo, with pitch, strike and length from signals.',
  fields: { everyBeats, pitch: signal, low: key, high: key, tonic, mode: choice('chromatic', ...HARMONIC_MODES), strike: amount(strike), length: amount(stepShare), while: gate },
  fresh: ({ signals, derived }) => {
    const gate = signals.find(({ kind }) => kind === 'gate')?.id;
    return { kind: 'stream', everyBeats: 0.5, pitch: ([...signals, ...derived].find(({ kind }) => kind === 'continuous') ?? signals[0])?.id ?? '', low: 48, high: 84, tonic: 0, mode: 'major', strike: 0.7, length: 0.8, ...(gate !== undefined && { while: gate }) };
  },
  words: ({ pitch, while: gate }, nameOf) => `pitches from ${nameOf(pitch)}${gate ? `, while ${nameOf(gate)}` : ''}`,
  remember: () => ({}),
  // Without a gate it would never be still: then it goes with the transport.
  steps: {
    withTransport: false,
    everyBeats: ({ part }) => part.everyBeats,
    goesOn: (play) => (play.part.while === undefined ? play.running : play.isOn(play.part.while)),
    play: playStep,
  },
};
