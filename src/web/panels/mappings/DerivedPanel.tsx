import { Button, Select } from 'antd';
import { useState } from 'react';
import { addDerived, freshFormula } from '../../../core/signal/deriving';
import { findSignal } from '../../../core/rig/find';
import { removeSignals } from '../../../core/rig/remove';
import { FORMULA_OPS, FORMULAS, formulaInWords, type FormulaOp } from '../../../core/signal/formulas';
import { LiveNumber } from '../shared/LiveNumber';
import { useEdit, useRig } from '../shell/useRig';
import { DerivedFields, FORMULAS_PX } from './DerivedFields';
import { usePanel } from '../shared/usePanel';
import { MapDerived } from './MapDerived';
import { TeachMovements } from './TeachMovements';
import styles from './TeachMovements.module.css';
import shaping from './shaping.module.css';
import derivedPanel from './DerivedPanel.module.css';
import shared from '../shared/shared.module.css';

/** A movement is taught. */
const MADE_BY_HAND = FORMULA_OPS.filter((op) => op !== 'movement');

/** Signals made of others: what each is in words, where it stands now, and how it is made. */
export function DerivedPanel({ onClose }: { onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const [openId, open] = useState<string | null>(null);
  const [teaches, setTeaches] = useState(false);
  const nameOf = (id: string) => findSignal(rig, id)?.signal.name ?? id;
  const add = (op: FormulaOp) => {
    const { change, id } = addDerived(rig, FORMULAS[op].name, freshFormula(op, [], rig));
    edit({ kind: 'change', changes: [change] });
    open(id);
  };
  const remove = (id: string) => edit({ kind: 'change', changes: removeSignals(rig, [id]) });
  const panel = usePanel<HTMLElement>(onClose);
  return (
    <aside ref={panel} tabIndex={-1} className={`${shaping.shaping} ${derivedPanel.derived}`} aria-label="Derived signals">
      <header>
        <h2>Derived signals</h2>
        <Button type="text" aria-label="Close the derived signals" onClick={onClose}>
          Close
        </Button>
      </header>
      <Select
        aria-label="Make a derived signal"
        listHeight={FORMULAS_PX}
        placeholder="Make one…"
        value={null}
        disabled={rig.signals.length === 0}
        options={MADE_BY_HAND.map((op) => ({ value: op, label: FORMULAS[op].name }))}
        onChange={(op) => op !== null && add(op)}
      />
      <Button className={styles.open} aria-expanded={teaches} disabled={rig.signals.length === 0} onClick={() => setTeaches(!teaches)}>
        Teach a movement…
      </Button>
      {teaches && <TeachMovements />}
      {rig.derived.length === 0 && <p className={shared.empty}>{rig.signals.length === 0 ? 'There is no signal yet to derive one from: bring an input first.' : 'None yet. One can be the sum of two faders, the speed of a rope, a slow wave.'}</p>}
      <ul className={derivedPanel.derivedList}>
        {rig.derived.map((derived) => {
          const users = rig.mappings.filter(({ signal }) => signal === derived.id);
          return (
            <li key={derived.id} aria-label={derived.name}>
              <button type="button" className={derivedPanel.derivedHead} aria-expanded={derived.id === openId} onClick={() => open(derived.id === openId ? null : derived.id)}>
                <strong>{derived.name}</strong>
                <LiveNumber signal={derived} />
                <span className={shared.unit}>{derived.unit === 'unit' ? '' : derived.unit}</span>
                <span className={derivedPanel.formula}>{formulaInWords(derived.formula, nameOf)}</span>
              </button>
              {derived.id === openId && (
                <>
                  <DerivedFields derived={derived} rig={rig} />
                  <p className={shared.hint}>{users.length === 0 ? 'It drives nothing yet: map it as any other signal.' : `It drives ${users.map(({ name }) => name).join(', ')}; these go with it when it is deleted.`}</p>
                  <div className={shared.actions}>
                    <MapDerived derived={derived.id} />
                    <Button danger onClick={() => remove(derived.id)}>
                      Delete {derived.name}
                    </Button>
                  </div>
                </>
              )}
            </li>
          );
        })}
      </ul>
    </aside>
  );
}
