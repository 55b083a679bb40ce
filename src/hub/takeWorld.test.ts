import { expect, it } from 'vitest';
import { encodeOsc } from '../net/osc/codec';
import type { SongTime } from './songTime';
import { takeWorld } from './takeWorld';

it('a voice that a take began as OSC ends with the take, and one that ended itself does not end twice', () => {
  const left: string[] = [];
  const world = takeWorld({
    happens: () => true,
    osc: (output) => void left.push(`${output} moves`),
    oscVoice: (output, _packet, held, end) => void left.push(`${output} ${held} ${end ? 'begins' : 'ends'}`),
    outputs: () => [
      { id: 'mist', name: 'Mist', kind: 'osc', host: '127.0.0.1', port: 9000, receiver: 'r' },
      { id: 'bell', name: 'Bell', kind: 'standIn', receiver: 'r' },
    ],
    song: {} as SongTime,
    told: () => ({ wants: () => undefined, punch: () => undefined, changed: () => undefined }),
    settled: () => undefined,
  });
  const voice = (part: string, whose: number) => encodeOsc(`/hull/${part}`, [{ type: 'i', value: whose }, { type: 'f', value: 60 }]);
  world.play('mist', voice('on', 1), true);
  world.play('mist', voice('on', 2), true);
  world.play('mist', voice('pitch', 2), true);
  world.play('mist', voice('off', 1), true);
  // An OSC voice sent elsewhere, where nobody takes it, is not played.
  world.play('bell', voice('on', 3), true);
  // A mapping may call its address what it likes.
  world.play('mist', voice('on', 4), false);
  expect(left.splice(0)).toEqual(['mist /hull/off 1 begins', 'mist /hull/off 2 begins', 'mist moves', 'mist /hull/off 1 ends', 'mist moves']);
  world.endNotes();
  world.endNotes();
  expect(left).toEqual(['mist /hull/off 2 ends']);
});
