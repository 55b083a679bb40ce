import type { RigDocument } from '../../rig/document';
import type { RigVoiceMapping, VoiceAxis } from '../../rig/voices';
import { voiceEvent } from '../../voices/event';
import { Engine } from '../engine';
import { whoOf } from '../sink';
import { testRig } from '../testRig';

/** A rig for tests: the stream "hull" of a MIDI input to one output of bend range 48, by the voice mappings given. */
export function voiceRig(...mappings: Partial<RigVoiceMapping>[]): RigDocument {
  const rig = testRig([]);
  rig.inputs.push({ id: 'hull', name: 'Hull', kind: 'midi', device: { report: 'Hull', slot: 1 } });
  rig.receivers[0]!.bendRangeSemitones = 48;
  rig.streams.push({ id: 'hull', name: 'Hull', input: 'hull', source: 'all' });
  rig.voiceMappings = mappings.map((mapping, i) => ({
    id: `v${i}`,
    name: `Voices ${i}`,
    on: true,
    stream: 'hull',
    output: 'weather',
    layout: { kind: 'zone', zone: 'lower', members: 15, steal: 'oldest' },
    pitch: { transpose: 0, bends: true },
    strike: { shaping: {}, range: [0, 127] },
    release: { shaping: {}, range: [0, 127] },
    pressure: { shaping: {}, message: { kind: 'channelPressure' }, range: [0, 127] },
    slide: { shaping: {}, message: { kind: 'controlChange', controller: 74 }, range: [0, 127] },
    ...mapping,
  }));
  return rig;
}

export const OSC_LAYOUT = { kind: 'osc', address: '/hull', voices: 2, steal: 'oldest' } as const;
export const oscAxis = (part: string): VoiceAxis => ({ shaping: {}, message: { kind: 'osc', part }, range: [0, 1] });

/** The same to an OSC output, two voices below `/hull`. */
export function oscVoiceRig(mapping: Partial<RigVoiceMapping> = {}): RigDocument {
  const rig = voiceRig({ layout: OSC_LAYOUT, pressure: oscAxis('press'), slide: oscAxis('slide'), ...mapping });
  rig.outputs = [{ id: 'weather', name: 'Weather', kind: 'osc', receiver: 'weather', host: '127.0.0.1', port: 9000 }];
  return rig;
}

export interface VoicePlay {
  engine: Engine;
  /** What left, as `bytes`, since it was looked at last. */
  take(): string[];
  who: string[];
  on(timeMs: number, voice: number, pitch: number, said?: Partial<Record<'strike' | 'pressure' | 'slide', number>>): void;
  move(timeMs: number, voice: number, said: Partial<Record<'pitch' | 'pressure' | 'slide', number>>): void;
  off(timeMs: number, voice: number, release?: number): void;
}

/** Plays the first stream of a rig. */
export function playVoices(rig: RigDocument, listen: (bytes: Uint8Array) => void = () => undefined): VoicePlay {
  let sent: string[] = [];
  const who: string[] = [];
  const engine = new Engine(rig, {
    midi(_, by, bytes, length) {
      const message = bytes.slice(0, length);
      sent.push([...message].map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' '));
      who.push(whoOf(by));
      listen(message);
    },
    osc: (_output, by, path, args) => {
      sent.push([path, ...args.map(({ type, value }) => `${type} ${value}`)].join(' '));
      who.push(whoOf(by));
    },
  });
  return {
    engine,
    who,
    take() {
      const taken = sent;
      sent = [];
      return taken;
    },
    on: (timeMs, voice, pitch, said = {}) => void engine.take({ ...voiceEvent('on'), timeMs, voice, pitch, ...said }),
    move: (timeMs, voice, said) => void engine.take({ ...voiceEvent('move'), timeMs, voice, ...said }),
    off: (timeMs, voice, release = NaN) => void engine.take({ ...voiceEvent('off'), timeMs, voice, release }),
  };
}
