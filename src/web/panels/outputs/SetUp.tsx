import { useState } from 'react';
import type { RigOutput } from '../../../core/outputs/kinds';
import { takes } from '../../../core/rig/outputs';
import { checklist, setUpItems } from '../../../core/receivers/setUp';
import type { RigReceiver } from '../../../core/rig/document';
import { useOutputsState } from '../../live/useLiveFacts';
import { EditButton, EditCheckbox } from '../shared/edit';
import { useRig } from '../shell/useRig';
import { useTellNow } from '../shell/useTellNow';
import styles from './SetUp.module.css';

interface SetUpProps {
  output: RigOutput;
  receiver: RigReceiver;
  put: (fields: Partial<Record<keyof RigReceiver, unknown>>) => void;
}

/** Sends a receiver what can be sent of how it should be set, and lists what must be set by hand over there. */
export function SetUp({ output, receiver, put }: SetUpProps) {
  const { document: rig } = useRig();
  const tell = useTellNow();
  const away = useOutputsState()?.outputs.find(({ id }) => id === output.id)?.away ?? null;
  const [sent, setSent] = useState<string | null>(null);
  if (takes(output) !== 'midi') return null;
  const items = setUpItems(rig, output);
  const byMessage = items.filter(({ messages }) => messages.length > 0);
  const byHand = checklist(rig, output);
  const setUp = () => {
    if (!tell({ kind: 'setUp', output: output.id })) return;
    // It bends as it is told from here on.
    if (byMessage.some(({ key }) => key.startsWith('bend'))) put({ bendThereSemitones: undefined });
    setSent(byMessage.map(({ text }) => text).join(', '));
  };
  const tick = (key: string, isDone: boolean) => {
    const others = (receiver.setByHand ?? []).filter((one) => one !== key && byHand.some((item) => item.key === one));
    const done = isDone ? [...others, key] : others;
    put({ setByHand: done.length === 0 ? undefined : done });
  };
  return (
    <section className={styles.setUp} aria-label="Set it up">
      <div className={styles.head}>
        <h3>Set it up</h3>
        <EditButton disabled={away !== null || byMessage.length === 0} onClick={setUp}>
          Send the set-up
        </EditButton>
      </div>
      <p>{byMessage.length === 0 ? 'Nothing of it can be sent there.' : `Sends ${byMessage.map(({ text }) => text).join(', ')}.`}</p>
      {sent !== null && <p role="status">Sent: {sent}. Whether it was taken only its sound can say: try a bend.</p>}
      {byHand.length > 0 && (
        <>
          <p>To be set by hand over there:</p>
          <ul>
            {byHand.map(({ key, text, isDone }) => (
              <li key={key}>
                <EditCheckbox checked={isDone} onChange={({ target }) => tick(key, target.checked)}>
                  {text}
                </EditCheckbox>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
