import { CHOOSABLE, CHOOSABLE_KINDS, shownOf, withShown } from '../../../core/midi/fields';
import { hexOf } from '../../../core/midi/describe';
import { noteName } from '../../../core/midi/describe';
import type { MidiMessage } from '../../../core/midi/message';
import { EditSelect } from './edit';
import styles from './MessageInWords.module.css';
import { NumberBox } from './NumberBox';
import { TextField } from './TextField';

interface MessageInWordsProps {
  /** What it is one of, for names: `message 2`. */
  label: string;
  message: MidiMessage;
  onChange: (message: MidiMessage) => void;
}

/** Any MIDI message, chosen by what it is called and its numbers as people count them. */
export function MessageInWords({ label, message, onChange }: MessageInWordsProps) {
  const { fields } = CHOOSABLE[message.kind];
  return (
    <span className={styles.message}>
      <EditSelect aria-label={`Kind of ${label}`} className={styles.kind} value={message.kind} options={CHOOSABLE_KINDS.map((value) => ({ value, label: CHOOSABLE[value].name }))} onChange={(kind) => onChange(keeping(message, CHOOSABLE[kind].fresh))} />
      {fields.map((field) => (
        <label key={field.field} className={styles.number}>
          <span>{field.field === 'note' ? `note, ${noteName(shownOf(message, field))}` : field.name}</span>
          <NumberBox label={`${field.name} of ${label}`} whole min={field.least + field.from} max={field.most + field.from} value={shownOf(message, field)} onChange={(shown) => onChange(withShown(message, field, shown))} />
        </label>
      ))}
      {message.kind === 'sysEx' && (
        <label className={styles.bytes}>
          <span>bytes between F0 and F7</span>
          <TextField label={`Bytes of ${label}`} value={hexOf(message.data)} parse={dataFrom} onChange={(data) => onChange({ kind: 'sysEx', data })} />
        </label>
      )}
    </span>
  );
}

/** A message of another kind, on the channel of the one before and with what else they share. */
function keeping(before: MidiMessage, fresh: MidiMessage): MidiMessage {
  const known = before as unknown as Record<string, unknown>;
  return Object.fromEntries(Object.entries(fresh).map(([field, value]) => [field, field !== 'kind' && typeof known[field] === typeof value ? known[field] : value])) as unknown as MidiMessage;
}

/** Data bytes in hex. Throws a sentence where they are not. */
function dataFrom(text: string): Uint8Array {
  const words = text.trim().split(/[\s,]+/);
  const wrong = words.find((word) => !/^[0-7]?[0-9a-f]$/i.test(word));
  if (wrong !== undefined) throw new Error(`“${wrong.slice(0, 10)}” is no data byte in hex, 00 to 7F: nothing was changed.`);
  return Uint8Array.from(words, (word) => parseInt(word, 16));
}
