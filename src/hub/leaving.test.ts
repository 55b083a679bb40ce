import { expect, it } from 'vitest';
import { Engine } from '../core/engine/engine';
import { oscVoiceRig } from '../core/engine/voices/testVoices';
import { voiceEvent } from '../core/voices/event';
import { decodeOsc } from '../net/osc/codec';
import { Audience } from './audience';
import { Leaving } from './leaving';
import { OutputDesk } from './outputs/desk';
import { memoryStore, SoundingBook } from './outputs/soundingBook';

it('a voice of OSC and the pedal that holds it end where their output is muted, and their own ends are too late', () => {
  const left: string[] = [];
  const desk = new OutputDesk(new SoundingBook(memoryStore()), new Audience(), () => 1, () => ({
    takes: 'osc',
    mayComeBack: true,
    send: ({ bytes }) => left.push(...decodeOsc(bytes).map(({ address, arguments: [whose, value] }) => `${address} ${String(whose)} ${String(value)}`)),
    close: () => undefined,
  }));
  const rig = oscVoiceRig({ pressure: undefined, slide: undefined });
  const engine: Engine = new Engine(rig, new Leaving(desk, () => engine, () => null, () => undefined));
  desk.open(rig.outputs);
  const pedal = (value: number) => engine.take({ kind: 'pedal', timeMs: 1, stream: 0, controller: 64, value });
  pedal(127);
  engine.take({ ...voiceEvent('on'), timeMs: 1, voice: 7, pitch: 60, strike: 1 });
  expect(left.splice(0)).toEqual(['/hull/pedal 64 1', '/hull/on 1 60']);
  desk.open(rig.outputs.map((output) => ({ ...output, muted: true })));
  expect(left.splice(0)).toEqual(['/hull/pedal 64 0', '/hull/off 1 0']);
  pedal(0);
  desk.open(rig.outputs);
  pedal(0);
  expect(left).toEqual([]);
});
