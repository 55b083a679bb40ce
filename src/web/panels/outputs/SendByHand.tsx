import { Button } from 'antd';
import { useState } from 'react';
import { encode } from '../../../core/midi/encode';
import { CHOOSABLE } from '../../../core/midi/fields';
import type { MidiMessage } from '../../../core/midi/message';
import { useLive } from '../../live/LiveProvider';
import { MessageInWords } from '../shared/MessageInWords';
import styles from './SendByHand.module.css';

/** Sends one message there, chosen in words. */
export function SendByHand({ output, disabled }: { output: string; disabled: boolean }) {
  const live = useLive();
  const [message, setMessage] = useState<MidiMessage>(CHOOSABLE.programChange.fresh);
  return (
    <section aria-label="Send a message" className={styles.send}>
      <h3>Send a message</h3>
      <MessageInWords label="the message" message={message} disabled={disabled} onChange={setMessage} />
      <Button disabled={disabled} onClick={() => live.tell({ kind: 'sendTo', output, messages: [[...encode(message)]] })}>
        Send
      </Button>
    </section>
  );
}
