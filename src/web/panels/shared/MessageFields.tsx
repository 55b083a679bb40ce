import { useMemo } from 'react';
import { freshMessage } from '../../../core/ledger/freshMessage';
import { ledgerOf } from '../../../core/ledger/ledger';
import { possibleKinds } from '../../../core/ledger/throughOutput';
import { noteName } from '../../../core/midi/describe';
import { noteToHz } from '../../../core/units/pitch';
import type { RigDocument } from '../../../core/rig/document';
import { NumberBox } from './NumberBox';
import { addressFrom } from './fromText';
import { TextField } from './TextField';
import { Field, Pair } from './Field';
import { NoteFields } from './NoteFields';
import { MESSAGES, numbersOf, rangeEnds, type MessageSpec } from '../../../core/messages';
import { MACHINE_WORDS } from '../../../core/messages/machine';
import { MACHINE_COMMANDS } from '../../../core/midi/machineControl';
import { RELATIVE_ENCODINGS } from '../../../core/messages/relative';
import { TRANSPORT_ACTIONS } from '../../../core/messages/transport';
import { EditSegmented, EditSelect, EditSwitch } from './edit';
import shared from './shared.module.css';

interface MessageFieldsProps {
  message: MessageSpec;
  /** The mapping that it belongs to. */
  mapping: string;
  rig: RigDocument;
  output: string;
  onChange: (message: MessageSpec) => void;
}

/** The numbers of a message that have a field here. */
const LABELS: Readonly<Record<string, string>> = {
  channel: 'Channel',
  controller: 'Controller',
  parameter: 'Parameter',
  note: 'Note',
  velocity: 'Velocity',
  steps: 'Steps for the whole way',
  most: 'At most at once',
  device: 'Device',
};

const options = (values: readonly string[], words: Readonly<Record<string, string>> = {}) => values.map((value) => ({ value, label: words[value] ?? value }));

/** What a level becomes: the kind of message, its address and its numbers. */
export function MessageFields({ message, mapping, rig, output, onChange }: MessageFieldsProps) {
  const set = (change: object) => onChange({ ...message, ...change } as MessageSpec);
  return (
    <>
      <Field label="Kind">
        <EditSelect aria-label="Kind of message" value={message.kind} options={possibleKinds(rig).map((kind) => ({ value: kind, label: MESSAGES[kind].name }))} onChange={(kind) => kind !== message.kind && onChange(freshMessage(kind, message, rig, output))} />
      </Field>
      {numbersOf(message).map(({ field, value, least, most }) => {
        const label = LABELS[field] ?? field;
        return (
          <Field key={field} label={field === 'note' ? `${noteName(value)}, ${noteToHz(value).toFixed(0)} Hz` : label}>
            <NumberBox label={label} min={least} max={most} whole value={value} onChange={(next) => set({ [field]: next })} />
          </Field>
        );
      })}
      <Clash mapping={mapping} rig={rig} />
      {message.kind === 'note' && <NoteFields message={message} rig={rig} onChange={onChange} />}
      {message.kind === 'parameter' && (
        <>
          <Field label="Registered (RPN)">
            <EditSwitch aria-label="Registered parameter" checked={message.registered} onChange={(registered) => set({ registered })} />
          </Field>
          <Field label="Bits">
            <EditSegmented aria-label="Bits" value={message.bits} options={[7, 14]} onChange={(bits) => set({ bits, range: [0, bits === 14 ? 16383 : 127] })} />
          </Field>
          <Field label="Null afterwards">
            <EditSwitch aria-label="Null function afterwards" checked={message.nullAfter === true} onChange={(nullAfter) => set({ nullAfter })} />
          </Field>
        </>
      )}
      {message.kind === 'pitchBend' && (
        <Field label="Bend in">
          <EditSegmented
            aria-label="Unit of the bend"
            value={message.unit ?? 'steps'}
            options={['steps', 'semitones']}
            onChange={(unit) => set({ unit, range: unit === 'semitones' ? [-2, 2] : [0, 16383] })}
          />
        </Field>
      )}
      {message.kind === 'programChange' && (
        <Field label="Bank select first">
          <EditSwitch
            aria-label="Bank select first"
            checked={message.bank !== undefined}
            onChange={(on) => onChange(on ? { ...message, bank: { msb: 0, lsb: 0 } } : { kind: message.kind, channel: message.channel, range: message.range })}
          />
        </Field>
      )}
      {message.kind === 'programChange' && message.bank && (
        <Field label="Bank, MSB and LSB">
          <Pair label="Bank" min={0} max={127} step={1} values={[message.bank.msb, message.bank.lsb]} onChange={([msb, lsb]) => set({ bank: { msb, lsb } })} />
        </Field>
      )}
      {message.kind === 'relative' && (
        <Field label="Written as">
          <EditSelect
            aria-label="Encoding of relative steps"
            value={message.encoding}
            options={options(RELATIVE_ENCODINGS, { signedBit: 'signed bit', twosComplement: 'two’s complement', binaryOffset: 'binary offset' })}
            onChange={(encoding) => set({ encoding })}
          />
        </Field>
      )}
      {message.kind === 'transport' && (
        <Field label="Action">
          <EditSelect aria-label="Transport action" value={message.action} options={options(TRANSPORT_ACTIONS)} onChange={(action) => set({ action })} />
        </Field>
      )}
      {message.kind === 'machine' && (
        <Field label="Command">
          <EditSelect aria-label="Machine control command" value={message.command} options={options(MACHINE_COMMANDS, MACHINE_WORDS)} onChange={(command) => set({ command })} />
        </Field>
      )}
      {message.kind === 'sysEx' && (
        <Field label="Bytes (hex, vv for the value)">
          <TextField label="SysEx bytes" value={sysExText(message.bytes)} parse={parseSysEx} onChange={(bytes) => set({ bytes })} />
        </Field>
      )}
      {message.kind === 'osc' && (
        <Field label="OSC address">
          <TextField label="OSC address" value={message.address} parse={addressFrom} onChange={(address) => set({ address })} />
        </Field>
      )}
      {'range' in message && <RangeFields message={message} range={message.range} set={set} />}
    </>
  );
}

/** Said where the number is typed: who else sends to the same address. */
function Clash({ mapping, rig }: { mapping: string; rig: RigDocument }) {
  const words = useMemo(() => {
    const clash = ledgerOf(rig).clashes.find(({ claims }) => claims.some((claim) => claim.mapping === mapping));
    const others = new Set(clash?.claims.flatMap((claim) => (claim.mapping === mapping ? [] : [claim.mapping])));
    const names = rig.mappings.filter(({ id }) => others.has(id)).map(({ name }) => name);
    return names.length === 0 ? null : `${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''} ${names.length === 1 ? 'sends' : 'send'} to the same: choose another number, or how the two are merged.`;
  }, [rig, mapping]);
  return (
    <p className={shared.trouble} role="status">
      {words}
    </p>
  );
}

const PLACES = { value: 'vv', msb: 'mm', lsb: 'll' } as const;
type SysExByte = Extract<MessageSpec, { kind: 'sysEx' }>['bytes'][number];

const sysExText = (bytes: readonly SysExByte[]) => bytes.map((byte) => (typeof byte === 'number' ? byte.toString(16).toUpperCase().padStart(2, '0') : PLACES[byte])).join(' ');

/** The bytes between F0 and F7. Throws a sentence where one is no byte of data. */
function parseSysEx(text: string): SysExByte[] {
  return text
    .trim()
    .split(/[\s,]+/)
    .filter((word) => word !== '' && !/^f[07]$/i.test(word))
    .map((word) => {
      const place = (Object.keys(PLACES) as (keyof typeof PLACES)[]).find((key) => PLACES[key] === word.toLowerCase());
      if (place) return place;
      if (!/^[0-7]?[0-9a-f]$/i.test(word)) throw new Error(`“${word.slice(0, 10)}” is no byte of SysEx data: use 00 to 7F, vv for the value, or mm and ll for its two halves.`);
      return parseInt(word, 16);
    });
}

interface RangeFieldsProps {
  message: Extract<MessageSpec, { range: unknown }>;
  range: [number, number];
  set: (change: { range: [number, number] }) => void;
}

function RangeFields({ message, range: [lo, hi], set }: RangeFieldsProps) {
  const [min, max] = rangeEnds(message);
  return (
    <>
      <Field label="Range out">
        <Pair label="Range out" min={min} max={max} step={1} values={[lo, hi]} onChange={(range) => set({ range })} />
      </Field>
      <Field label="Direction">
        <EditSegmented
          aria-label="Direction"
          value={lo <= hi ? 'rising' : 'falling'}
          options={[
            { value: 'rising', label: 'Rising' },
            { value: 'falling', label: 'Falling' },
          ]}
          onChange={(direction) => (direction === 'rising') !== lo <= hi && set({ range: [hi, lo] })}
        />
      </Field>
    </>
  );
}
