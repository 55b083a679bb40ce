import { Button, Select } from 'antd';
import type { RigDocument, RigScene } from '../../../core/rig/document';
import { decode, splitMessages } from '../../../core/midi/decode';
import { describeBytes, hexOf } from '../../../core/midi/describe';
import { TextField } from '../shared/TextField';
import { outputsTaking } from '../../../core/rig/outputs';

/** Program 1 on channel 1, to begin with. */
const FIRST_BYTES = [0xc0, 0];

interface SceneMessagesProps {
  rig: RigDocument;
  messages: RigScene['messages'];
  onChange: (messages: RigScene['messages']) => void;
}

/** The messages that a scene sends, in their order, as bytes and in words. */
export function SceneMessages({ rig, messages, onChange }: SceneMessagesProps) {
  const outputs = outputsTaking(rig, 'midi');
  const [output] = outputs;
  return (
    <section aria-label="Messages of the scene">
      <h3>Sends</h3>
      {messages.map((message, i) => (
        <div className="scene-message" key={i}>
          <Select aria-label={`Output of message ${i + 1}`} value={message.output} options={outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={(to) => onChange(messages.with(i, { ...message, output: to }))} />
          <TextField label={`Bytes of message ${i + 1}`} disabled={false} value={hexOf(Uint8Array.from(message.bytes))} parse={parseBytes} onChange={(bytes) => onChange(messages.with(i, { ...message, bytes }))} />
          <Button aria-label={`Leave message ${i + 1} out`} onClick={() => onChange(messages.filter((_, other) => other !== i))}>
            ✕
          </Button>
          <small>{splitMessages(Uint8Array.from(message.bytes)).map(describeBytes).join(', ')}</small>
        </div>
      ))}
      <Button disabled={!output} onClick={() => output && onChange([...messages, { output: output.id, bytes: FIRST_BYTES }])}>
        Add a message
      </Button>
    </section>
  );
}

/** Whole MIDI messages in hex. Throws a sentence where they are not. */
function parseBytes(text: string): number[] {
  const words = text.trim().split(/[\s,]+/);
  const wrong = words.find((word) => !/^[0-9a-f]{1,2}$/i.test(word));
  if (wrong !== undefined) throw new Error(`“${wrong.slice(0, 10)}” is no byte in hex: write bytes as B0 07 64.`);
  const bytes = words.map((word) => parseInt(word, 16));
  if (!splitMessages(Uint8Array.from(bytes)).every((message) => decode(message) !== null)) throw new Error('These bytes are not whole MIDI messages: write them as B0 07 64, the status first.');
  return bytes;
}
