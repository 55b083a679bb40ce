import { expect, it, vi } from 'vitest';
import { testRig } from '../core/engine/testRig';
import { hexOf } from '../core/midi/describe';
import type { MidiMessage } from '../core/midi/message';
import type { RigDocument, RigMapping } from '../core/rig/document';
import { memoryStore, SoundingBook } from './outputs/soundingBook';
import type { SinkEvents } from './outputs/sink';
import { Player } from './player';

const clock = vi.hoisted(() => ({ nowMs: 10_000 }));
vi.mock('./time', () => ({ hubTimeMs: () => clock.nowMs }));

/** A player whose outputs write down what they are given; `weather` says by the input `desk` where it stands. */
function setup(mappings: Partial<RigMapping>[], more: Partial<RigDocument> = {}) {
  const rig: RigDocument = { ...testRig(mappings), ...more };
  rig.inputs = [...rig.inputs, { id: 'desk', name: 'Desk', kind: 'midi', device: { report: 'Desk', slot: 1 } }];
  rig.outputs = [
    { ...rig.outputs[0]!, comesBack: 'desk' },
    { id: 'lamps', name: 'Lamps', kind: 'standIn', receiver: 'weather' },
  ];
  const sent: string[] = [];
  const events = new Map<string, SinkEvents>();
  const player: Player = new Player(
    new SoundingBook(memoryStore()),
    {},
    (output, of) => {
      events.set(output.id, of);
      return { takes: 'midi', mayComeBack: true, send: ({ bytes }) => void sent.push(`${output.id} ${hexOf(bytes)}`), close: () => undefined };
    },
  );
  player.load(rig, 1, false, {});
  const move = (signal: string, value: number) => {
    player.incoming.sample(player.signals.find(signal)!, (clock.nowMs += 10), value, null);
    player.tick();
  };
  const said = (message: MidiMessage, input = 'desk') => player.cameBack(input, message);
  const value = (signal: string) => player.shown.signalValue(player.signals.find(signal)!);
  player.tick();
  sent.length = 0;
  return { player, sent, events, move, said, value, rig };
}

const cc = (value: number): MidiMessage => ({ kind: 'controlChange', channel: 3, controller: 21, value });

it('a receiver that says its value moves the control, and nothing leaves', () => {
  const { said, value, sent, move, player } = setup([{}]);
  expect(said(cc(64))).toBe(true);
  expect(value('fog')).toBeCloseTo(64 / 127, 2);
  expect(player.shown.mappingLevel(player.mappings.find('m0')!)).toBeCloseTo(64 / 127, 5);
  player.tick();
  expect(sent).toEqual([]);
  // What the receiver has need not be said; what it has not, must.
  move('fog', 64 / 127);
  expect(sent).toEqual([]);
  move('fog', 1);
  expect(sent).toEqual(['weather B2 15 7F']);
});

it('a control that a finger holds stays under it', () => {
  const { said, value, move } = setup([{}]);
  move('fog', 0.5);
  move('fog.touch', 1);
  expect(said(cc(10))).toBe(true);
  expect(value('fog')).toBe(0.5);
  move('fog.touch', 0);
  said(cc(10));
  expect(value('fog')).toBeCloseTo(10 / 127, 2);
});

it('another input, another address and a note are played like ever', () => {
  const { said } = setup([{}, { signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 } }]);
  expect(said(cc(64), 'elsewhere')).toBe(false);
  expect(said({ kind: 'controlChange', channel: 3, controller: 22, value: 1 })).toBe(false);
  expect(said({ kind: 'noteOn', channel: 1, note: 60, velocity: 100 })).toBe(false);
});

it('goes back through the range and the curve of its mapping', () => {
  const { said, value } = setup([{ shaping: { curve: { kind: 'power', k: 1 } }, message: { kind: 'controlChange', channel: 3, controller: 21, range: [100, 0] } }]);
  // Level 0.25 of the square curve is half of the way; 75 of 100 down to 0.
  said(cc(75));
  expect(value('fog')).toBeCloseTo(0.5, 2);
});

it('a value of 14 bits comes back in its halves, as a controller and as a parameter that is selected', () => {
  const control = (...pairs: [number, number][]) => pairs.map(([controller, value]): MidiMessage => ({ kind: 'controlChange', channel: 3, controller, value }));
  const fine = setup([{ message: { kind: 'controlChange14', channel: 3, controller: 20, range: [0, 16383] } }]);
  fine.move('fog', 1);
  fine.sent.length = 0;
  expect(control([20, 64], [52, 32]).map((message) => fine.said(message))).toEqual([true, true]);
  expect(fine.value('fog')).toBeCloseTo((64 * 128 + 32) / 16383, 3);
  // Its upper half is there already.
  fine.move('fog', (64 * 128 + 33) / 16383);
  expect(fine.sent).toEqual(['weather B2 34 21']);

  const other = setup([{ message: { kind: 'parameter', channel: 3, registered: false, parameter: 259, bits: 14, range: [0, 16383] } }]);
  other.move('fog', 1);
  // What selects is no value yet, and data entry for another parameter is none of its own.
  expect(control([99, 2], [98, 4], [6, 10], [98, 3], [6, 32], [38, 1]).map((message) => other.said(message))).toEqual([false, false, false, false, true, true]);
  expect(other.value('fog')).toBeCloseTo((32 * 128 + 1) / 16383, 3);
  other.events.get('weather')!.state('is not here');
  other.sent.length = 0;
  other.events.get('weather')!.state(null);
  expect(other.sent.join(', ')).toContain('B2 63 02, weather B2 62 03, weather B2 06 20, weather B2 26 01');
});

it('a lower half behind a parameter of 7 bits is no playing either', () => {
  const { said, value } = setup([{ message: { kind: 'parameter', channel: 3, registered: false, parameter: 259, bits: 7, range: [0, 127] } }]);
  const control = (controller: number, to: number): MidiMessage => ({ kind: 'controlChange', channel: 3, controller, value: to });
  expect([control(99, 2), control(98, 3), control(6, 32), control(38, 5)].map((message) => said(message))).toEqual([false, false, true, true]);
  expect(value('fog')).toBeCloseTo(32 / 127, 2);
});

it('a level is shown as a ring, a lamp or a motor, where it is another than before, and no loop is looked for', () => {
  const { sent, move, player, said } = setup([
    { shownOn: { output: 'lamps', as: 'controller', channel: 1, number: 48, from: 1, to: 11 } },
    { signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 }, shownOn: { output: 'lamps', as: 'note', channel: 1, number: 9, from: 0, to: 127 } },
  ]);
  const loops = vi.spyOn(player.outputs.loops, 'sent');
  move('fog', 0.5);
  move('fog', 0.52);
  move('bell', 1);
  expect(sent).toEqual(['weather B2 15 40', 'lamps B0 30 06', 'weather B2 15 42', 'weather 90 3C 64', 'lamps 90 09 7F']);
  expect(loops.mock.calls.map(([output]) => output)).not.toContain('lamps');
  // Panic counts what sounds, which a lamp does not; it goes out all the same, as it may be an instrument after all.
  expect(player.panic()).toBe(1);
  expect(sent).toContain('lamps 80 09 40');
  move('bell', 0);
  move('bell', 1);
  expect(sent.at(-1)).toBe('lamps 90 09 7F');
  sent.length = 0;
  // What comes back from a receiver is shown as well.
  said(cc(127));
  player.tick();
  move('bell', 0);
  expect(sent).toContain('lamps B0 30 0B');
  expect(sent.at(-1)).toBe('lamps 90 09 00');
});

it('a controller that was away is shown everything again', () => {
  const { sent, move, events } = setup([{ shownOn: { output: 'lamps', as: 'bend', channel: 2, from: 0, to: 16383 } }]);
  move('fog', 1);
  events.get('lamps')!.state('is not here');
  sent.length = 0;
  move('fog', 0);
  events.get('lamps')!.state(null);
  expect(sent).toContain('lamps E1 00 00');
});

it('a lamp goes out with its mapping, with its output, and when the program stops', () => {
  const lamp: Partial<RigMapping> = { signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 }, shownOn: { output: 'lamps', as: 'note', channel: 1, number: 9, from: 0, to: 127 } };
  const lit = () => {
    const made = setup([lamp]);
    made.move('bell', 1);
    made.sent.length = 0;
    return made;
  };
  const unmapped = lit();
  unmapped.player.load({ ...unmapped.rig, mappings: [] }, 2, false, {});
  expect(unmapped.sent).toContain('lamps 80 09 40');
  const unplugged = lit();
  unplugged.player.load({ ...unplugged.rig, outputs: [unplugged.rig.outputs[0]!], mappings: [{ ...unplugged.rig.mappings[0]!, shownOn: undefined } as unknown as RigMapping] }, 2, false, {});
  expect(unplugged.sent).toContain('lamps 80 09 40');
  const stopped = lit();
  stopped.player.stop();
  expect(stopped.sent).toContain('lamps 80 09 40');
});

it('a receiver that was away is told what it said of itself last, not what was sent before', () => {
  const { said, sent, move, events } = setup([{}]);
  move('fog', 1);
  said(cc(64));
  sent.length = 0;
  events.get('weather')!.state('is not here');
  events.get('weather')!.state(null);
  expect(sent).toContain('weather B2 15 40');
  expect(sent).not.toContain('weather B2 15 7F');
});

it('a mapping that is off is not moved by what comes back', () => {
  const { said, value, player } = setup([{ on: false }]);
  said(cc(64));
  player.tick();
  expect(value('fog')).not.toBeCloseTo(64 / 127, 2);
});
