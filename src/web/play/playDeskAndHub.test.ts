import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { ControlKind, RigControl } from '../../core/rig/document';
import { plainControl, rolesOf } from '../../core/surface/controlKinds';
import { SlotsById } from '../live/slots';
import { PlayDesk } from './playDesk';

const SIZE = 280;
const KINDS: ControlKind[] = ['fader', 'xy', 'faders', 'tracks', 'push', 'pads', 'keys', 'toggle', 'radio', 'stepper', 'dial', 'strip'];
const CONTROLS = KINDS.map((kind): RigControl => {
  const control = plainControl(kind, kind, '', { x: 0, y: 0, width: SIZE, height: SIZE });
  return { ...control, signals: Object.fromEntries(rolesOf(control).map(({ role }) => [role, `${kind}.${role}`])) };
});
const SIGNALS = CONTROLS.flatMap((control) => rolesOf(control).map(({ role, kind }) => ({ control: control.id, role, kind, id: control.signals[role]! })));

/** A hub as the page knows it: it has what it was told, and lets go of what was held when the line breaks, where it notices that before it is back. */
function madeHub() {
  const values = new Map<string, number>();
  const signals = new SlotsById<number>();
  let isUp = true;
  return {
    values,
    store: { signals },
    send(samples: readonly { signal: string; value: number }[]) {
      if (isUp) for (const { signal, value } of samples) values.set(signal, value);
      return isUp;
    },
    breaks(isNoticed: boolean) {
      isUp = false;
      if (isNoticed) for (const { id, kind } of SIGNALS) if (kind === 'gate') values.set(id, 0);
    },
    isBack(desk: PlayDesk, eventMs: number) {
      if (isUp) return;
      isUp = true;
      for (const [id, value] of values) signals.set(id, value);
      desk.sayHeldAgain(eventMs);
    },
    moves(id: string, value: number) {
      if (!isUp) return;
      values.set(id, value);
      signals.set(id, value);
    },
  };
}

const finger = fc.integer({ min: 1, max: 5 });
const control = fc.constantFrom(...KINDS);
const place = fc.record({ at: fc.record({ x: fc.nat(SIZE - 1), y: fc.nat(SIZE - 1) }), size: fc.constant(0) });
const step = fc.oneof(
  { weight: 6, arbitrary: fc.record({ does: fc.constant('down' as const), finger, control, place }) },
  { weight: 6, arbitrary: fc.record({ does: fc.constant('move' as const), finger, place }) },
  { weight: 6, arbitrary: fc.record({ does: fc.constant('up' as const), finger }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('line breaks' as const), isNoticed: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('line is back' as const) }) },
  { weight: 2, arbitrary: fc.record({ does: fc.constant('other' as const), signal: fc.constantFrom(...SIGNALS.filter(({ kind }) => kind === 'continuous')), value: fc.constantFrom(0, 0.25, 1) }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('key' as const), control, key: fc.constantFrom('ArrowUp', 'Home', 'PageDown') }) },
);

it('whatever fingers, keys, others and the line do: in the end nothing is held, and the page shows what the hub has', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const hub = madeHub();
      const desk = new PlayDesk(hub, () => 1);
      const shown = new Map<string, Readonly<Record<string, number>>>();
      for (const one of CONTROLS) desk.place(one, null as never, (values) => void shown.set(one.id, values));
      let eventMs = 0;
      for (const what of steps) {
        eventMs++;
        if (what.does === 'down') desk.down(what.finger, what.control, what.place, eventMs);
        else if (what.does === 'move') desk.move(what.finger, what.place, eventMs);
        else if (what.does === 'up') desk.up(what.finger, eventMs);
        else if (what.does === 'line breaks') hub.breaks(what.isNoticed);
        else if (what.does === 'line is back') hub.isBack(desk, eventMs);
        else if (what.does === 'key') desk.key(what.control, what.key, eventMs);
        else hub.moves(what.signal.id, what.value);
      }
      for (let id = 1; id <= 5; id++) desk.up(id, ++eventMs);
      hub.isBack(desk, ++eventMs);
      for (const { id, kind, control: of, role } of SIGNALS) {
        const has = hub.values.get(id) ?? 0;
        expect([id, shown.get(of)![role] ?? 0]).toEqual([id, has]);
        expect([id, kind === 'gate' ? has === 0 : has >= 0 && has <= 1]).toEqual([id, true]);
      }
    }),
    { numRuns: 500 },
  );
});
