import { useState } from 'react';
import { encode } from '../../../core/midi/encode';
import { CHOOSABLE } from '../../../core/midi/fields';
import type { MidiMessage } from '../../../core/midi/message';
import { EditButton } from '../shared/edit';
import { MessageInWords } from '../shared/MessageInWords';
import { useTellNow } from '../shell/useTellNow';
import styles from './SendByHand.module.css';

/** Sends one message there, chosen in words. */
export function SendByHand({ output }: { output: string }) {
  const tell = useTellNow();
  const [message, setMessage] = useState<MidiMessage>(CHOOSABLE.programChange.fresh);
  return (
    <section aria-label="Send a message" className={styles.send}>
      <h3>Send a message</h3>
      <MessageInWords label="the message" message={message} onChange={setMessage} />
      <EditButton onClick={() => tell({ kind: 'sendTo', output, messages: [[...encode(message)]] })}>
        Send
      </EditButton>
    </section>
  );
}
