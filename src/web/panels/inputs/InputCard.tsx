import { Button } from 'antd';
import { useState } from 'react';
import type { RigSignal } from '../../../core/rig/document';
import { useFeedWords, usePlaying } from '../../live/useLiveFacts';
import { Menu, type MenuParts } from '../shared/Menu';
import { NameField } from '../shared/NameField';
import { useEdit } from '../shell/useRig';
import { SignalRow } from './SignalRow';
import { inputInWords } from '../../../core/inputs/kinds';
import { noneInWords, stateInWords } from './words';
import type { RigInput } from '../../../core/inputs/kinds';
import { counted } from '../../../core/units/counted';
import { EditButton } from '../shared/edit';
import styles from './InputCard.module.css';
import shared from '../shared/shared.module.css';

/** What can be opened beside the list. */
export type Opened =
  | { kind: 'signal'; id: string }
  | { kind: 'input'; id: string }
  | { kind: 'calibrate'; id: string }
  | { kind: 'raw'; id: string }
  | { kind: 'osc' };

interface InputCardProps {
  input: RigInput;
  signals: RigSignal[];
  opened: Opened | null;
  showHidden: boolean;
  /** Whether what is new is taken up. */
  listens: boolean;
  onOpen: (opened: Opened) => void;
}

/** One input with its signals. */
export function InputCard({ input, signals, opened, showHidden, listens, onOpen }: InputCardProps) {
  const edit = useEdit();
  const [folded, setFolded] = useState(input.kind === 'surface');
  const shown = signals.filter((signal) => showHidden || !signal.hidden);
  const state = useFeedWords(input.id, (feed) => feed?.state ?? 'absent');
  const groups = [...new Set(shown.map(({ group }) => group))];
  const actions: MenuParts['items'] = [
    { key: 'input', label: 'Name and settings', onClick: () => onOpen({ kind: 'input', id: input.id }) },
    { key: 'raw', label: 'Raw messages', disabled: input.kind !== 'osc' && input.kind !== 'midi', onClick: () => onOpen({ kind: 'raw', id: input.id }) },
  ];
  return (
    <article className={styles.inputCard} aria-label={`Input ${input.name}`} data-state={input.kind === 'surface' ? undefined : state} data-hidden={input.hidden === true}>
      <header>
        <button type="button" className={styles.fold} aria-expanded={!folded} aria-label={`${folded ? 'Show' : 'Fold'} the signals of ${input.name}`} onClick={() => setFolded(!folded)}>
          {folded ? '▸' : '▾'}
        </button>
        <NameField
          className={shared.quietInput}
          label={`Name of the input ${input.name}`}
          name={input.name}
          onChange={(name) => edit({ kind: 'setInput', input: input.id, set: { name } })}
        />
        <span className={styles.inputKind}>{inputInWords(input)}</span>
        <span className={styles.inputState}>
          {input.kind === 'surface' && <SurfaceState surface={input.surface} />}
          <FeedWords input={input} />
        </span>
        {input.kind !== 'surface' && (
          <EditButton onClick={() => onOpen({ kind: 'calibrate', id: input.id })}>
            Calibrate
          </EditButton>
        )}
        <Menu items={actions}>
          <Button aria-label={`More for ${input.name}`}>⋯</Button>
        </Menu>
      </header>
      {!folded &&
        groups.map((group) => (
          <section key={group ?? ''} aria-label={group ?? 'Signals'}>
            {group !== undefined && <h2>{group}</h2>}
            <ul className={styles.signalRows}>
              {shown
                .filter((signal) => signal.group === group)
                .map((signal) => (
                  <SignalRow
                    key={signal.id}
                    signal={signal}
                    selected={opened?.kind === 'signal' && opened.id === signal.id}
                    onSelect={(id) => onOpen({ kind: 'signal', id })}
                  />
                ))}
            </ul>
          </section>
        ))}
      {!folded && shown.length === 0 && <p className={shared.empty}>{noneInWords(signals.length, listens)}</p>}
    </article>
  );
}

function FeedWords({ input }: { input: RigInput }) {
  return <>{useFeedWords(input.id, (feed) => `${input.kind === 'surface' ? '' : stateInWords(feed)}${feed && feed.unknown > 0 ? ` · ${feed.unknown} more` : ''}`)}</>;
}

function SurfaceState({ surface }: { surface: string }) {
  const count = usePlaying()[surface] ?? 0;
  return <>{count === 0 ? 'no page open' : `open on ${counted(count, 'page')}`}</>;
}
