import { beforeEach, expect, it, vi } from 'vitest';
import type { RigControl } from '../../core/rig/document';
import { SlotsById } from '../live/slots';
import { PlayDesk } from './playDesk';

const fader: RigControl = { id: 'fog', kind: 'fader', label: 'Fog', frame: { x: 0, y: 0, width: 100, height: 400 }, signals: { value: 'fog', touch: 'fog.touch' } };
const bell: RigControl = { id: 'bell', kind: 'push', label: 'Bell', frame: { x: 100, y: 0, width: 100, height: 100 }, signals: { gate: 'bell' } };
const row: RigControl = { id: 'row', kind: 'faders', label: 'Row', frame: { x: 200, y: 0, width: 200, height: 400 }, count: 2, signals: { value1: 'row.1', value2: 'row.2' } };
const at = (x: number, y: number) => ({ at: { x, y }, size: 0 });

let up = true;
let sent: string[] = [];
const line = {
  send: (samples: readonly { signal: string; value: number }[], _: number, heldOn = false) => {
    if (up) sent.push((heldOn ? 'still: ' : '') + samples.map(({ signal, value }) => `${signal} ${Number(value.toFixed(2))}`).join(', '));
    return up;
  },
  store: { signals: new SlotsById<number>() },
};
const desk = () => {
  const made = new PlayDesk(line, () => 1);
  for (const control of [fader, bell, row]) made.place(control, null as never, vi.fn());
  return made;
};
beforeEach(() => {
  up = true;
  sent = [];
});

it('what others move while a finger holds it is shown when nobody does any more; what the finger moved after that stays', () => {
  const made = desk();
  const picture = vi.fn();
  made.place(fader, null as never, picture);
  const shown = () => (picture.mock.lastCall![0] as Record<string, number>).value;
  made.down(1, 'fog', at(50, 200), 0);
  made.move(1, at(50, 100), 1);
  const held = shown();
  line.store.signals.set('fog', 0.125);
  expect(shown()).toBe(held);
  made.up(1, 2);
  expect(shown()).toBe(0.125);
  made.down(1, 'fog', at(50, 200), 3);
  line.store.signals.set('fog', 0.25);
  made.move(1, at(50, 150), 4);
  const moved = shown();
  made.up(1, 5);
  expect([shown(), moved === 0.25]).toEqual([moved, false]);
});

it('a finger that has still to meet the value says nothing of it, and does not hold it: a scene or another tablet moves it on', () => {
  const made = desk();
  const picture = vi.fn();
  const shown = () => (picture.mock.lastCall![0] as Record<string, number>).value;
  made.place({ ...fader, id: 'waits', behaviour: { kind: 'softTakeover', sensitivity: 1 } }, null as never, picture);
  line.store.signals.set('fog', 0.25);
  made.down(1, 'waits', at(50, 100), 0);
  line.store.signals.set('fog', 0.5);
  expect(shown()).toBe(0.5);
  made.move(1, at(50, 110), 1);
  expect(sent).toEqual(['fog.touch 1']);
  // Past the value from above: it is met.
  made.move(1, at(50, 218), 2);
  line.store.signals.set('fog', 0.75);
  expect(sent).toEqual(['fog.touch 1', 'fog 0.45']);
  expect(shown()).toBeCloseTo(0.45, 2);
});

it('a second finger on a control, or a key that is held, makes the first an eighth of what it is; the finger lifts, and nothing jumps', () => {
  const made = desk();
  const pad: RigControl = { id: 'wind', kind: 'xy', label: 'Wind', frame: { x: 400, y: 0, width: 436, height: 436 }, signals: { x: 'x', y: 'y' } };
  made.place(pad, null as never, vi.fn());
  const last = () => sent.at(-1);
  made.down(1, 'wind', at(618, 218), 0);
  made.down(2, 'wind', at(500, 100), 1);
  made.move(1, at(618, 218), 2);
  made.move(1, at(778, 218), 3);
  expect(last()).toBe('x 0.55, y 0.5');
  made.up(2, 4);
  made.move(1, at(778, 218), 5);
  expect(last()).toBe('x 0.55, y 0.5');
  made.move(1, at(778, 218), 6, true);
  made.move(1, at(778, 378), 7, true);
  expect(last()).toBe('x 0.55, y 0.45');
  made.up(1, 8);
  made.down(3, 'wind', at(618, 218), 9);
  expect(last()).toBe('x 0.5, y 0.5');
});

it('a second finger makes fine what it came down on, though the pointer of the first has come down elsewhere since', () => {
  const made = desk();
  made.down(1, 'fog', at(50, 200), 0);
  made.down(2, 'fog', at(50, 300), 1);
  made.up(1, 2);
  // A mouse has one number for all of its presses.
  made.down(1, 'row', at(250, 200), 3);
  made.up(2, 4);
  made.down(3, 'row', at(250, 300), 5);
  made.move(1, at(250, 200), 6);
  sent = [];
  made.move(1, at(250, 100), 7);
  const eighth = 0.5 + (100 / (400 - 2 * 18)) / 8;
  expect(sent).toEqual([`row.1 ${Number(eighth.toFixed(2))}`]);
});

it('after a broken line what is held is said again, where the finger is now', () => {
  const made = desk();
  made.down(1, 'fog', at(50, 200), 0);
  made.down(2, 'bell', at(150, 50), 0);
  up = false;
  made.move(1, at(50, 0), 1);
  up = true;
  sent = [];
  made.sayHeldAgain(2);
  expect(sent).toEqual(['still: fog 1, fog.touch 1', 'still: bell 1']);
});

it('what was let go meanwhile is let go once the line is back, and once only', () => {
  const made = desk();
  made.down(1, 'fog', at(50, 200), 0);
  made.down(2, 'bell', at(150, 50), 0);
  up = false;
  made.up(1, 1);
  made.up(2, 1);
  up = true;
  sent = [];
  made.sayHeldAgain(2);
  made.sayHeldAgain(3);
  expect(sent).toEqual(['fog.touch 0, bell 0']);
});

it('a gate that was let go and taken again meanwhile is let go first', () => {
  const made = desk();
  made.down(2, 'bell', at(150, 50), 0);
  up = false;
  made.up(2, 1);
  made.down(3, 'bell', at(150, 50), 2);
  up = true;
  sent = [];
  made.sayHeldAgain(3);
  // The second finger presses; from then on it is held.
  expect(sent).toEqual(['bell 0', 'bell 1']);
  sent = [];
  made.sayHeldAgain(4);
  expect(sent).toEqual(['still: bell 1']);
});

it('says no more than what the finger holds: the rest of its control may have been moved by others meanwhile', () => {
  const made = desk();
  made.down(1, 'row', at(250, 0), 0);
  sent = [];
  made.sayHeldAgain(1);
  expect(sent).toEqual(['still: row.1 1']);
});
