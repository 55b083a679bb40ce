import type { RigControl } from '../../../core/rig/document';
import { rolesOf } from '../../../core/surface/controlKinds';
import { EditSwitch } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import type { DesignerDesk } from './useDesigner';

const LONGEST_MS = 60_000;
const FRESH_MS = 200;

/** Where the levels of a control rest, and whether they go back there when the finger lifts. */
export function Springs({ control, desk: { rig, work } }: { control: RigControl; desk: DesignerDesk }) {
  const levels = rolesOf(control).filter(({ kind }) => kind === 'continuous');
  const signals = levels.flatMap(({ role }) => {
    const signal = rig.signals.find(({ id }) => id === control.signals[role]);
    const tail = /\d*$/.exec(role)![0];
    const released = control.signals[`touch${tail}`];
    return signal ? [{ signal, released }] : [];
  });
  const [first] = signals;
  if (!first) return null;
  const { rest = 0, returns } = first.signal;
  const springs = first.released !== undefined;
  const put = (change: { rest?: number; overMs?: number | null }) =>
    work((bench) => {
      for (const { signal, released } of signals) {
        const to = { ...signal, rest: change.rest ?? signal.rest ?? 0 };
        const overMs = change.overMs === undefined ? signal.returns?.overMs : change.overMs;
        delete to.returns;
        if (overMs !== null && overMs !== undefined && released !== undefined) to.returns = { to: to.rest, overMs, released };
        bench.put({ list: 'signals', id: signal.id, to });
      }
    });
  return (
    <>
      <Field label="Rests at">
        <NumberBox label="Rest value" min={0} max={1} step={0.05} value={rest} onChange={(value) => put({ rest: value })} />
      </Field>
      {springs && (
        <Field label="Springs back">
          <EditSwitch aria-label="Springs back" checked={returns !== undefined} onChange={(on) => put({ overMs: on ? FRESH_MS : null })} />
        </Field>
      )}
      {returns && (
        <Field label="within (ms)">
          <NumberBox label="Return time (ms)" min={0} max={LONGEST_MS} step={50} value={returns.overMs} onChange={(overMs) => put({ overMs })} />
        </Field>
      )}
    </>
  );
}
