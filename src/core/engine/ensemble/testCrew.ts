import type { MemberPart, RigMember } from '../../ensemble/parts';
import type { RigDocument } from '../../rig/document';
import { voiceEvent } from '../../voices/event';
import { describeBytes } from '../../midi/describe';
import { play } from '../testPlay';
import { voiceRig } from '../voices/testVoices';

/** A member for tests, named by its kind or as given. */
export function member(part: MemberPart, more: Partial<RigMember> = {}): RigMember {
  return { id: part.kind, name: part.kind, on: true, level: 1, octave: 0, begins: 'now', swing: 0.5, feelMs: 0, part, ...more };
}

/** A chord in C major, asked for by the voices of "hull", close and not led. */
export const swell: MemberPart & { kind: 'chord' } = { kind: 'chord', tonic: 0, mode: 'major', from: { by: 'stream', stream: 'hull' }, tones: 3, inversion: 0, leads: false, spread: 'close', bass: 'none', low: 60, stays: 'nothing' };

/** A rig with the stream "hull", the signals of the test rig, and these members, the first on channel 1, the next on 2, and so on. */
export function crew(...members: RigMember[]): RigDocument {
  const rig = voiceRig();
  rig.members = members;
  rig.voiceMappings = members.map(({ id, name }, i) => ({ ...voiceRig({}).voiceMappings[0]!, id: `to.${id}`, name, stream: id, pitch: { transpose: 0, bends: false }, pressure: undefined, slide: undefined, layout: { kind: 'poly', channel: i + 1, voices: 32, steal: 'oldest' } }) as RigDocument['voiceMappings'][number]);
  return rig;
}

/** Plays a crew; `heard` gives the notes since it was asked last, as `[ms, channel, key, velocity]`, ends with velocity 0. */
export function playCrew(rig: RigDocument, seed?: number) {
  const played = play(rig, seed);
  const { engine, sent } = played;
  const stream = engine.plan.streamIndex.get('hull')!;
  return {
    ...played,
    press: (timeMs: number, pitch: number, strike = 1, voice = pitch) => void engine.take({ ...voiceEvent('on'), stream, timeMs, voice, pitch, strike }),
    lift: (timeMs: number, pitch: number) => void engine.take({ ...voiceEvent('off'), stream, timeMs, voice: pitch }),
    does: (timeMs: number, does: 'start' | 'stop' | 'continue') => void engine.take({ kind: 'transport', timeMs, does }),
    heard: (): [ms: number, channel: number, key: number, velocity: number][] =>
      sent.splice(0).flatMap(({ timeMs, bytes: [status, key, velocity] }) => ((status! & 0xe0) === 0x80 ? [[Math.round(timeMs * 1000) / 1000, (status! & 15) + 1, key!, status! >= 0x90 ? velocity! : 0]] : [])),
    inWords: () => sent.splice(0).map(({ bytes }) => describeBytes(bytes)),
  };
}

type Heard = [ms: number, channel: number, key: number, velocity: number];
/** Beginnings alone, of a channel: time and key. */
export const struck = (heard: readonly Heard[], channel = 1) => heard.filter(([, on, , velocity]) => on === channel && velocity > 0).map(([ms, , key]) => [ms, key]);

/** The keys that were struck on a channel, in their order. */
export const keys = (heard: readonly Heard[], channel = 1) => struck(heard, channel).map(([, key]) => key);

/** What sounds after all this: by channel and key. A key that is struck twice without an end between, or ended without sounding, is a mistake. */
export function sounding(heard: readonly Heard[]): { left: string[]; mistakes: string[] } {
  const left = new Set<string>();
  const mistakes: string[] = [];
  for (const [ms, channel, key, velocity] of heard) {
    const name = `${channel} ${key}`;
    if (velocity > 0 === left.has(name)) mistakes.push(`${ms} ${name} ${velocity}`);
    if (velocity > 0) left.add(name);
    else left.delete(name);
  }
  return { left: [...left], mistakes };
}
