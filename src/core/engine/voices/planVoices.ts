import { kindOfAxis, type AxisKind } from '../../voices/axisMessages';
import { aloneOn, isSpread, layoutKey, pedalChannels, placesOf, type VoiceLayout } from '../../voices/layout';
import type { Pull } from '../../voices/pull';
import { pitchesOf } from '../../voices/scale';
import { PLAIN_KEY_MAP, tuningOf } from '../../voices/tuning';
import type { RigDocument, Shaping, Smoothing } from '../../rig/document';
import type { RigVoiceMapping, VoiceAxis } from '../../rig/voices';
import { NONE, planMapping, type PlannedMapping } from '../planMapping';

/** The axes of a voice that go on moving, in the order in which they are laid out. */
export const AXIS = { pressure: 0, slide: 1, pitch: 2 } as const;
export const AXES = 3;
/** What a voice is said to have where nobody said: struck well, not pressed, in the middle (MPE 1.0 lets CC 74 rest at 64). */
export const UNSAID = { strike: 100 / 127, pressure: 0, slide: 0.5 } as const;

/** So wide is the range in of smoothed pitches, in semitones. */
export const PITCH_SPAN = 128;

export interface PlannedAxis {
  shape: PlannedMapping;
  message: VoiceAxis['message'];
  /** What is known of that kind of message. */
  kind: AxisKind<VoiceAxis['message']>;
}

/** Channels that voices are given, and who else is given them. */
export interface PlannedPool {
  key: string;
  output: number;
  /** By place: the channel. */
  channels: number[];
  /** Every voice has a channel of its own: what belongs to a voice is said before its note, whatever the channel holds. */
  spread: boolean;
  pedals: number[];
  /** Where its values begin among those that a newer one may replace, behind the addresses of mappings. */
  firstValue: number;
}

/** Where voices of a voice mapping go, now or while one alone is heard. */
export interface PlannedWay {
  layout: VoiceLayout;
  pool: number;
}

export interface PlannedVoiceMapping {
  rig: RigVoiceMapping;
  stream: number;
  output: number;
  bendRangeSemitones: number;
  /** Where its voices leave as OSC, the address above them; else null. */
  oscAddress: string | null;
  together: PlannedWay;
  alone: PlannedWay;
  keyLow: number;
  keyHigh: number;
  strikeLow: number;
  strikeHigh: number;
  strike: PlannedMapping;
  release: PlannedMapping | null;
  /** By axis; null where nothing is sent of it. Pitch only where it is smoothed. */
  axes: [pressure: PlannedAxis | null, slide: PlannedAxis | null];
  pitch: PlannedMapping | null;
  pull: Pull | null;
  pitches: Float64Array;
}

export interface VoicePlan {
  streamIds: string[];
  streamIndex: Map<string, number>;
  voices: PlannedVoiceMapping[];
  pools: PlannedPool[];
  /** By stream: the voice mappings that it plays. */
  plays: number[][];
}

interface Context {
  outputIndex: ReadonlyMap<string, number>;
  bendRanges: readonly number[];
  curves: number[];
  curvesFrom: number;
  /** The plan before an edit: what the edit left alone is taken over. */
  before: (VoicePlan & { rig: RigDocument }) | null;
}

/** Everything of a voice mapping that has a shaping. */
export function shapesOf({ strike, release, axes, pitch }: PlannedVoiceMapping): PlannedMapping[] {
  return [strike, release, pitch, ...axes.map((axis) => axis?.shape ?? null)].filter((shape) => shape !== null);
}

/** Compiles the voice half of a document that `protocol/rig` has accepted. */
export function planVoices(rig: RigDocument, { outputIndex, bendRanges, curves, curvesFrom, before }: Context): VoicePlan {
  // Members of the ensemble are streams that are made of others.
  const streamIds = [...rig.streams, ...rig.members].map(({ id }) => id);
  const streamIndex = new Map(streamIds.map((id, s) => [id, s]));
  const pools: PlannedPool[] = [];
  const wayOf = (output: number, layout: VoiceLayout): PlannedWay => {
    const key = `${rig.outputs[output]!.id} ${layoutKey(layout)}`;
    const known = pools.findIndex((pool) => pool.key === key);
    if (known >= 0) return { layout, pool: known };
    const last = pools.at(-1);
    const firstValue = last ? last.firstValue + last.channels.length * AXES : 0;
    return { layout, pool: pools.push({ key, output, channels: placesOf(layout), spread: isSpread(layout) || layout.kind === 'osc', pedals: pedalChannels(layout), firstValue }) - 1 };
  };
  const shapeOf = (shaping: Shaping, [outLo, outHi]: readonly [number, number], most: number): PlannedMapping => ({ ...unitShape(shaping, curves, curvesFrom), outLo, outHi, outMid: Math.round((outLo + outHi) / 2), most });
  const axisOf = (axis: VoiceAxis | undefined): PlannedAxis | null => axis === undefined ? null : { shape: shapeOf(axis.shaping, axis.range, kindOfAxis(axis.message).most), message: axis.message, kind: kindOfAxis(axis.message) };
  const voices = rig.voiceMappings.map((mapping): PlannedVoiceMapping => {
    const output = outputIndex.get(mapping.output);
    const stream = streamIndex.get(mapping.stream);
    if (output === undefined || stream === undefined) throw new Error(`The voice mapping "${mapping.id}" refers to what is not there.`);
    const { keys, strikes, pitch, strike, release } = mapping;
    const known = before?.rig.scales === rig.scales ? before?.voices.find((planned) => planned.rig === mapping) : undefined;
    if (known) return { ...known, stream, output, bendRangeSemitones: bendRanges[output]!, together: wayOf(output, mapping.layout), alone: wayOf(output, aloneOn(mapping.layout)) };
    return {
      rig: mapping,
      stream,
      output,
      bendRangeSemitones: bendRanges[output]!,
      oscAddress: mapping.layout.kind === 'osc' ? mapping.layout.address : null,
      together: wayOf(output, mapping.layout),
      alone: wayOf(output, aloneOn(mapping.layout)),
      // Half a key belongs to the key.
      keyLow: keys ? keys.low - 0.5 : -Infinity,
      keyHigh: keys ? keys.high + 0.5 : Infinity,
      strikeLow: strikes?.low ?? -Infinity,
      strikeHigh: strikes?.high ?? Infinity,
      strike: shapeOf(strike.shaping, strike.range, 127),
      release: release ? shapeOf(release.shaping, release.range, 127) : null,
      axes: [axisOf(mapping.pressure), axisOf(mapping.slide)],
      pitch: pitch.smoothing ? smoothedPitch(pitch.smoothing, curves, curvesFrom) : null,
      pull: pitch.pull ?? null,
      pitches: pitch.pull ? pitchesFor(rig, pitch.pull) : new Float64Array(0),
    };
  });
  const plays = streamIds.map((_, s) => voices.flatMap(({ stream }, v) => (stream === s ? [v] : [])));
  return { streamIds, streamIndex, voices, pools, plays };
}

function pitchesFor(rig: RigDocument, { scale, referenceHz }: Pull): Float64Array {
  const kept = scale.kind === 'kept' ? rig.scales.find(({ id }) => id === scale.scale) : undefined;
  return pitchesOf(scale, referenceHz, kept ? tuningOf(kept.cents, kept.keyMap ?? PLAIN_KEY_MAP) : null);
}

/** The steps of a shaping whose input goes from 0 to 1, as a mapping of such a signal has them. */
function unitShape(shaping: Shaping, curves: number[], curvesFrom: number): PlannedMapping {
  const signal = { id: 'axis', name: '', kind: 'continuous', unit: 'unit', range: [0, 1] } as const;
  const mapping = { id: 'axis', name: '', on: true, signal: 'axis', shaping, message: { kind: 'controlChange', channel: 1, controller: 0, range: [0, 127] }, output: '' } as const;
  return planMapping({ ...mapping, message: { ...mapping.message, range: [0, 127] } }, { ...signal, range: [0, 1] }, { find: () => 0, rangeOf: () => [0, 1], mappingIndex: () => NONE, output: NONE, address: NONE, curves, curvesFrom, bendRangeSemitones: 0 });
}

const smoothedPitch = (smoothing: Smoothing, curves: number[], curvesFrom: number): PlannedMapping => unitShape({ rangeIn: { lo: 0, hi: PITCH_SPAN }, smoothing }, curves, curvesFrom);

/** Whether voices that sound may go on when one plan follows another. */
export function sameVoices(before: PlannedVoiceMapping, after: PlannedVoiceMapping): boolean {
  const [a, b] = [before.rig, after.rig];
  return a === b || (a.stream === b.stream && a.output === b.output && JSON.stringify([a.layout, a.keys, a.strikes]) === JSON.stringify([b.layout, b.keys, b.strikes]));
}
