import { App, Button } from 'antd';
import { useMemo, useState } from 'react';
import { LEAST_EXAMPLES, MOST_EXAMPLES, MOST_SIGNALS, Movement, PATH_POINTS, type MovementExample } from '../../../core/gesture/movement';
import type { RigDerived, RigDocument, RigSignal } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import { removeSignals } from '../../../core/rig/remove';
import { addDerived } from '../../../core/signal/deriving';
import type { Movement as MovementFormula } from '../../../core/signal/formulas/movement';
import { TeachList } from '../../teaching/TeachList';
import { cssVariables, paletteOf } from '../../theme/tokens';
import { EditSelect } from '../shared/edit';
import { LiveNumber } from '../shared/LiveNumber';
import { useEdit, useRig } from '../shell/useRig';
import { MapDerived } from './MapDerived';
import styles from './TeachMovements.module.css';
import { useMovementExamples } from './useMovementExamples';
import shared from '../shared/shared.module.css';

const MOST_MOVEMENTS = 16;
type TaughtMovement = RigDerived & { formula: MovementFormula };

const movementsOf = (rig: RigDocument) => rig.derived.filter((derived): derived is TaughtMovement => derived.formula.op === 'movement');

/** Movements of any signals, each taught by drawing it three times; it is a gate from then on. */
export function TeachMovements() {
  const { document: rig, stage } = useRig();
  const edit = useEdit();
  const { message } = App.useApp();
  const [of, setOf] = useState<string[]>([]);
  const [teaching, setTeaching] = useState<{ name: string; known: TaughtMovement | null; examples: MovementExample[] } | null>(null);
  const taught = movementsOf(rig);
  const known = teaching?.known;
  const ids = known ? known.formula.of : of;
  const signals = ids.flatMap((id) => rig.signals.find((signal) => signal.id === id) ?? []);
  useMovementExamples(signals, teaching !== null && !stage, (example) => {
    if (example === 'too long') return void message.info('That went on for more than four seconds: rest before and after a movement.');
    if (!teaching) return;
    const examples = [...teaching.examples, example];
    setTeaching({ ...teaching, examples });
    if (examples.length >= LEAST_EXAMPLES && !known) keep(teaching.name, examples);
    else if (examples.length + (known?.formula.examples.length ?? 0) >= MOST_EXAMPLES) keep(teaching.name, examples);
  });
  const keep = (name: string, examples: readonly MovementExample[]) => {
    setTeaching(null);
    if (examples.length === 0) return;
    if (known) {
      const formula = { ...known.formula, examples: [...known.formula.examples, ...examples].slice(-MOST_EXAMPLES) };
      return edit({ kind: 'change', changes: [{ list: 'derived', id: known.id, to: { ...known, formula } }] });
    }
    const formula: MovementFormula = { op: 'movement', of: ids, spans: signals.map(({ range: [lo, hi] }) => [lo, hi]), examples: [...examples] };
    edit({ kind: 'change', changes: [addDerived(rig, name, formula).change] });
  };
  const likeness = useMemo(() => {
    const movements = taught.map(({ name, formula }) => ({ name, key: formula.of.join(), movement: new Movement(formula.examples, formula.of.length) }));
    return movements.flatMap((one, i) => movements.slice(i + 1).flatMap((other) => (other.key === one.key ? [{ one: one.name, other: other.name, apart: one.movement.apartFrom(other.movement) }] : [])));
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [rig.derived]);
  return (
    <div className={styles.teach} style={cssVariables(paletteOf(stage))}>
      <label className={styles.of}>
        <span>Signals that it is drawn with</span>
        <EditSelect
          aria-label="Signals of the movement"
          mode="multiple"
          maxCount={MOST_SIGNALS}
          disabled={teaching !== null}
          className={styles.signals}
          placeholder="up to three signals"
          showSearch={{ optionFilterProp: 'label' }}
          value={of}
          options={drawable(rig).map(({ id }) => ({ value: id, label: `${findSignal(rig, id)!.from} · ${findSignal(rig, id)!.signal.name}` }))}
          onChange={setOf}
        />
      </label>
      <TeachList
        legend="Movements"
        noun="movement"
        placeholder="circle"
        taught={taught.map(({ name, formula }) => ({ name, examples: formula.examples.map(({ path }) => path) }))}
        enough={LEAST_EXAMPLES}
        most={MOST_MOVEMENTS}
        likeness={likeness}
        advice="make one of them plainer, or teach it again."
        teaching={teaching?.name ?? null}
        now={
          <>
            Draw {teaching?.name} and rest, then again: {teaching?.examples.length} of {known ? MOST_EXAMPLES - known.formula.examples.length : LEAST_EXAMPLES}{' '}
            <Button onClick={() => (known ? keep(known.name, teaching!.examples) : setTeaching(null))}>{known ? 'Done' : 'Leave it'}</Button>
          </>
        }
        ready={!stage && (signals.length > 0 || taught.length > 0)}
        onTeach={(name) => {
          const again = taught.find((one) => one.name === name) ?? null;
          if (!again && of.length === 0) return void message.info('Choose first which signals the movement is of.');
          setTeaching({ name, known: again, examples: [] });
        }}
        onForget={(name) => edit({ kind: 'change', changes: removeSignals(rig, [taught.find((one) => one.name === name)!.id]) })}
        more={(name) => <MovementMore derived={taught.find((one) => one.name === name)!} rig={rig} />}
      />
    </div>
  );
}

/** What can be drawn with: what moves, of an input. */
const drawable = (rig: RigDocument): RigSignal[] => rig.signals.filter(({ kind, hidden }) => kind === 'continuous' && !hidden);

/** The examples of a movement, what it is of, whether it happens now, and what it could play. */
function MovementMore({ derived, rig }: { derived: TaughtMovement; rig: RigDocument }) {
  const { of, examples } = derived.formula;
  const users = rig.mappings.filter(({ signal }) => signal === derived.id);
  return (
    <div className={styles.movement}>
      {examples.map((example, i) => (
        <PathPicture key={i} example={example} signals={of.length} label={`Example ${i + 1} of ${derived.name}`} />
      ))}
      <p className={shared.hint}>
        {of.map((id) => findSignal(rig, id)?.signal.name ?? id).join(', ')}: <LiveNumber signal={derived} />. {users.length > 0 ? `It drives ${users.map((one) => one.name).join(', ')}.` : 'It drives nothing yet.'}
      </p>
      <MapDerived derived={derived.id} />
    </div>
  );
}

const PICTURE_PX = 44;

/** One path, where it began marked; of a single signal, over time. */
function PathPicture({ example: { path }, signals, label }: { example: MovementExample; signals: number; label: string }) {
  const across = Array.from({ length: PATH_POINTS }, (_, i) => (signals === 1 ? i / PATH_POINTS : path[i * signals]!));
  const up = Array.from({ length: PATH_POINTS }, (_, i) => path[i * signals + (signals === 1 ? 0 : 1)]!);
  const place = (values: number[]) => {
    const [lo, hi] = [Math.min(...values), Math.max(...values)];
    return values.map((value) => 4 + ((PICTURE_PX - 8) * (value - lo)) / (hi - lo || 1));
  };
  const [x, y] = [place(across), place(up).map((at) => PICTURE_PX - at)];
  return (
    <svg width={PICTURE_PX} height={PICTURE_PX} role="img" aria-label={label}>
      <polyline points={x.map((at, i) => `${at},${y[i]}`).join(' ')} fill="none" stroke="currentColor" strokeWidth={2} />
      <circle cx={x[0]} cy={y[0]} r={3.5} fill="currentColor" />
    </svg>
  );
}
