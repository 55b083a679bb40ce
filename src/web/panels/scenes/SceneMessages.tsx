import { Button, Select } from 'antd';
import { useState } from 'react';
import { decode } from '../../../core/midi/decode';
import { hexOf } from '../../../core/midi/describe';
import { encode } from '../../../core/midi/encode';
import { bankAndProgram, CHOOSABLE } from '../../../core/midi/fields';
import type { MidiMessage } from '../../../core/midi/message';
import type { RigDocument, RigScene } from '../../../core/rig/document';
import { outputsTaking } from '../../../core/rig/outputs';
import { MessageInWords } from '../shared/MessageInWords';
import { TextField } from '../shared/TextField';
import styles from './SceneMessages.module.css';

interface SceneMessagesProps {
  rig: RigDocument;
  messages: RigScene['messages'];
  onChange: (messages: RigScene['messages']) => void;
}

const bytesOf = (message: MidiMessage): number[] => [...encode(message)];

/** The messages that a scene sends, in their order, chosen in words; as bytes for who wants them. */
export function SceneMessages({ rig, messages, onChange }: SceneMessagesProps) {
  const outputs = outputsTaking(rig, 'midi');
  const [asBytes, showBytes] = useState(false);
  // What is added goes where the last one goes.
  const output = messages.at(-1)?.output ?? outputs[0]?.id;
  const add = (...more: MidiMessage[]) => output !== undefined && onChange([...messages, ...more.map((message) => ({ output, bytes: bytesOf(message) }))]);
  return (
    <section aria-label="Messages of the scene">
      <div className={styles.head}>
        <h3>Sends</h3>
        {messages.length > 0 && (
          <Button type="text" aria-pressed={asBytes} onClick={() => showBytes(!asBytes)}>
            {asBytes ? 'In words' : 'As bytes'}
          </Button>
        )}
      </div>
      {messages.map((message, i) => (
        <div className={styles.message} key={i}>
          <Select aria-label={`Output of message ${i + 1}`} value={message.output} options={outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={(to) => onChange(messages.with(i, { ...message, output: to }))} />
          <Button aria-label={`Leave message ${i + 1} out`} onClick={() => onChange(messages.filter((_, other) => other !== i))}>
            ✕
          </Button>
          <span className={styles.what}>
            {asBytes ? (
              <TextField label={`Bytes of message ${i + 1}`} value={hexOf(Uint8Array.from(message.bytes))} parse={parseBytes} onChange={(bytes) => onChange(messages.with(i, { ...message, bytes }))} />
            ) : (
              <MessageInWords label={`message ${i + 1}`} message={decode(Uint8Array.from(message.bytes)) ?? CHOOSABLE.programChange.fresh} onChange={(to) => onChange(messages.with(i, { ...message, bytes: bytesOf(to) }))} />
            )}
          </span>
        </div>
      ))}
      <span className={styles.add}>
        <Button disabled={output === undefined} onClick={() => add(CHOOSABLE.programChange.fresh)}>
          Add a message
        </Button>
        <Button disabled={output === undefined} onClick={() => add(...bankAndProgram(1, 0, 0))}>
          Add bank and program
        </Button>
      </span>
    </section>
  );
}

/** One whole MIDI message in hex. Throws a sentence where it is none. */
function parseBytes(text: string): number[] {
  const words = text.trim().split(/[\s,]+/);
  const wrong = words.find((word) => !/^[0-9a-f]{1,2}$/i.test(word));
  if (wrong !== undefined) throw new Error(`“${wrong.slice(0, 10)}” is no byte in hex: write bytes as B0 07 64.`);
  const bytes = words.map((word) => parseInt(word, 16));
  if (decode(Uint8Array.from(bytes)) === null) throw new Error('These bytes are not one whole MIDI message: write it as B0 07 64, the status first.');
  return bytes;
}
