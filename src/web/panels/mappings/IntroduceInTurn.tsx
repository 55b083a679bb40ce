import { Select } from 'antd';
import { useState } from 'react';
import { isTaught } from '../../../core/receivers/taught';
import { findEither, isVoices, whereInWords, type EitherMapping } from '../../../core/mapping/either';
import type { RigDocument } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import { Aside } from '../shared/Aside';
import { Labelled } from '../shared/Field';
import { EditButton } from '../shared/edit';
import { useInTurnActions } from '../shell/InTurnProvider';
import { useRig } from '../shell/useRig';
import styles from './IntroduceInTurn.module.css';
import shared from '../shared/shared.module.css';

/** Which mappings: those that are shown, of an input (a surface is one, too), or of a group. */
type Which = { key: string; label: string; has: (mapping: EitherMapping) => boolean };

/** Introduces the mappings of a surface, an input or a group one after another, and says what each receiver has learned. */
export function IntroduceInTurn({ shown, onClose }: { shown: readonly EitherMapping[]; onClose: () => void }) {
  const { document: rig } = useRig();
  const { running, begin, turnTo } = useInTurnActions();
  const [key, setKey] = useState('shown');
  const choices = choicesOf(rig, shown);
  const which = choices.find((choice) => choice.key === key) ?? choices[0]!;
  const mappings = running ? running.mappings.flatMap((id) => findEither(rig, id) ?? []) : [...rig.mappings, ...rig.voiceMappings].filter((mapping) => mapping.on && which.has(mapping));
  const open = mappings.filter((mapping) => !isTaught(rig, mapping));
  const ids = (of: readonly EitherMapping[]) => of.map(({ id }) => id);
  return (
    <Aside title="Introduce one after another" onClose={onClose}>
      {!running && (
        <Labelled label="Which">
          <Select aria-label="Which mappings" value={which.key} options={choices.map(({ key: value, label }) => ({ value, label }))} onChange={setKey} />
        </Labelled>
      )}
      {mappings.length === 0 && <p className={shared.empty}>No mapping that is on is among them.</p>}
      {!running && mappings.length > 0 && (
        <>
          <p className={styles.about}>Each is sent alone until you say that it was learned (voices as they are played): here, in the bar above, or by a tap on the bar that the tablet shows.</p>
          <p className={styles.begin}>
            <EditButton type="primary" disabled={open.length === 0} onClick={() => begin(ids(open), 'sweep')}>
              Begin, as sweeps
            </EditButton>
            <EditButton disabled={open.length === 0} onClick={() => begin(ids(open), 'follow')}>
              Following the hand
            </EditButton>
            {open.length < mappings.length && (
              <EditButton onClick={() => begin(ids(mappings), 'sweep')}>
                All again
              </EditButton>
            )}
          </p>
        </>
      )}
      <ol className={styles.list}>
        {mappings.map((mapping, i) => (
          <li key={mapping.id} aria-current={running?.at === i ? 'step' : undefined}>
            <button type="button" disabled={!running} onClick={() => turnTo(i)}>
              <span className={styles.name}>{mapping.name}</span>
              <span className={styles.address}>{whereInWords(mapping)}</span>
              <span className={styles.state}>{isTaught(rig, mapping) ? '✓ learned' : running?.at === i ? 'now' : ''}</span>
            </button>
          </li>
        ))}
      </ol>
    </Aside>
  );
}

function choicesOf(rig: RigDocument, shown: readonly EitherMapping[]): Which[] {
  const all = [...rig.mappings, ...rig.voiceMappings];
  const inputOf = (mapping: EitherMapping) => {
    if (isVoices(mapping)) return rig.streams.find(({ id }) => id === mapping.stream)?.input ?? null;
    const found = findSignal(rig, mapping.signal)?.signal;
    return found && 'input' in found ? found.input : null;
  };
  const listed = new Set(shown.map(({ id }) => id));
  const groups = [...new Set(all.flatMap(({ group }) => group ?? []))];
  return [
    { key: 'shown', label: 'those that are listed here', has: ({ id }) => listed.has(id) },
    ...rig.inputs.filter(({ id }) => all.some((mapping) => inputOf(mapping) === id)).map(({ id, name }) => ({ key: `input ${id}`, label: `of ${name}`, has: (mapping: EitherMapping) => inputOf(mapping) === id })),
    ...groups.map((group) => ({ key: `group ${group}`, label: `of the group ${group}`, has: (mapping: EitherMapping) => mapping.group === group })),
  ];
}
