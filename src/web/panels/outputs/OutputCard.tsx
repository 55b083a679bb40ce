import { Button } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { voicesOf } from '../../../core/instruments/voices';
import { noteName } from '../../../core/midi/describe';
import { BEND_CENTRE } from '../../../core/midi/message';
import type { RigDocument, RigReceiver } from '../../../core/rig/document';
import { outputInWords, type RigOutput } from '../../../core/outputs/kinds';
import { takes } from '../../../core/rig/outputs';
import type { Heard as HeardAddress } from '../../../protocol/frames';
import type { OutputsState } from '../../../protocol/live';
import { addFigure } from '../../live/figures';
import { useLive } from '../../live/LiveProvider';
import type { MessageSpec } from '../../../core/messages';
import { counted } from '../../../core/units/counted';
import styles from './outputs.module.css';
import { VoicesStrip } from './VoicesStrip';
import shared from '../shared/shared.module.css';
import { useTellNow } from '../shell/useTellNow';

/** As long as a test sounds. */
const TEST_MS = 2000;

interface OutputCardProps {
  output: RigOutput;
  rig: RigDocument;
  /** Undefined before the hub said so. */
  state: OutputsState['outputs'][number] | undefined;
  /** What of it will not sound as it is meant; see `core/receivers/mismatch`. */
  misfits: readonly string[];
  opened: boolean;
  onOpen: () => void;
}

/** An output: where it leads, whether that is there, and what is heard at its end where that can be known. */
export function OutputCard({ output, rig, state, misfits, opened, onOpen }: OutputCardProps) {
  const receiver = rig.receivers.find(({ id }) => id === output.receiver)!;
  const away = state?.away ?? null;
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    if (opened) card.current?.scrollIntoView({ block: 'nearest' });
  }, [opened]);
  return (
    <article ref={card} className={styles.card} aria-label={`Output ${output.name}`} data-state={away !== null ? 'away' : output.muted ? 'muted' : 'there'} data-selected={opened}>
      <header>
        <h2>{output.name}</h2>
        {takes(output) === 'midi' && <TestButton output={output} disabled={away !== null || output.muted === true} />}
        <Button type="text" aria-label={`Settings of ${output.name}`} aria-expanded={opened} onClick={onOpen}>
          Settings
        </Button>
      </header>
      <p className={styles.where}>
        {outputInWords(output)}
        {receiver.name !== output.name && `, plays ${receiver.name}`}
        {output.muted && ' · muted'}
        {output.delayMs ? ` · ${output.delayMs} ms later` : ''}
        {away !== null && (
          <span className={styles.trouble}>
            {' '}
            · {away}
            {state!.missed > 0 && `, missed ${counted(state!.missed, 'message')}`}
          </span>
        )}
        {away === null && state !== undefined && state.missed > 0 && ` · missed ${counted(state.missed, 'message')} while it was away`}
      </p>
      {misfits.length > 0 && (
        <ul className={styles.misfits} aria-label={`What does not fit at ${output.name}`}>
          {misfits.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      {output.kind === 'standIn' ? <Heard output={output} rig={rig} receiver={receiver} /> : <Sends output={output} rig={rig} />}
    </article>
  );
}

/** Plays a scale and a sweep there, until it is over or told to stop. */
function TestButton({ output, disabled }: { output: RigOutput; disabled: boolean }) {
  const tell = useTellNow();
  const [on, setOn] = useState(false);
  useEffect(() => {
    if (!on) return;
    const over = setTimeout(() => setOn(false), TEST_MS);
    return () => clearTimeout(over);
  }, [on]);
  const test = () => {
    if (tell({ kind: 'testOutput', output: output.id, on: !on })) setOn(!on);
  };
  return (
    <Button type="text" disabled={disabled} aria-pressed={on} aria-label={`Test ${output.name}`} onClick={test}>
      {on ? 'Stop' : 'Test'}
    </Button>
  );
}

/** How many mappings send there: of what a receiver holds that is outside of Pumice nothing more is known. */
function Sends({ output, rig }: { output: RigOutput; rig: RigDocument }) {
  const count = [...rig.mappings, ...rig.voiceMappings].filter((mapping) => mapping.output === output.id).length;
  return <p className={shared.empty}>{count === 0 ? 'No mapping sends here yet: choose it in the shaping of one.' : `${count} ${count === 1 ? 'mapping sends' : 'mappings send'} here.`}</p>;
}

/** A stand-in receiver and what it holds at each address it has heard. */
function Heard({ output, rig, receiver }: { output: RigOutput; rig: RigDocument; receiver: RigReceiver }) {
  const { about } = receiver;
  const heard = useHeard(output.id);
  const voices = useMemo(() => voicesOf(heard, receiver), [heard, receiver]);
  const playsNotes = heard.some(({ kind }) => kind === 'note');
  return (
    <>
      {about !== '' && <p className={styles.where}>{about}</p>}
      {heard.length === 0 ? (
        <p className={shared.empty}>Nothing heard yet. Open a surface and move something.</p>
      ) : (
        <>
          {playsNotes && <VoicesStrip voices={voices} />}
          <ul className={styles.addresses}>
            {heard.map((row) => (
              <li key={`${row.kind} ${row.channel} ${row.number}`}>
                <span className={styles.address}>{addressOf(row)}</span>
                <span className={styles.name}>{nameOf(row, output, rig)}</span>
                <span className={`${shared.bar} ${styles.bar}`} data-both={row.kind === 'pitchBend'}>
                  <span style={{ transform: row.kind === 'pitchBend' ? `translateX(50%) scaleX(${(row.value - BEND_CENTRE) / (2 * BEND_CENTRE)})` : `scaleX(${row.value / 127})` }} />
                </span>
                <span className={`${shared.value} ${styles.value}`} data-value>{row.kind === 'note' && row.value === 0 ? 'off' : row.value}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

/** What an output hears, in the order of channel, kind and number. */
function useHeard(output: string): HeardAddress[] {
  const live = useLive();
  const [heard, setHeard] = useState<HeardAddress[]>([]);
  useEffect(() => {
    const figures = addFigure(() => setHeard([...(live.store.heard.value(output)?.values() ?? [])].sort(byAddress)));
    const remove = live.store.heard.listen(output, figures.changed);
    return () => {
      figures.remove();
      remove();
    };
  }, [live, output]);
  return heard;
}

function byAddress(a: HeardAddress, b: HeardAddress): number {
  return a.channel - b.channel || a.kind.localeCompare(b.kind) || a.number - b.number;
}

function addressOf({ kind, channel, number }: HeardAddress): string {
  switch (kind) {
    case 'controlChange':
      return `ch ${channel} · CC ${number}`;
    case 'note':
      return `ch ${channel} · ${noteName(number)}`;
    case 'pitchBend':
      return `ch ${channel} · bend`;
    default:
      return kind satisfies never;
  }
}

function nameOf({ kind, channel, number }: HeardAddress, output: RigOutput, rig: RigDocument): string {
  const mapping = rig.mappings.find(({ output: target, message }) => target === output.id && hasAddress(message, kind, channel, number));
  return mapping?.name ?? '';
}

function hasAddress(message: MessageSpec, kind: HeardAddress['kind'], channel: number, number: number): boolean {
  if (!('channel' in message) || message.channel !== channel) return false;
  switch (kind) {
    case 'controlChange':
      return 'controller' in message && message.controller === number;
    case 'note':
      return message.kind === 'note' && message.note === number;
    case 'pitchBend':
      return message.kind === 'pitchBend';
    default:
      return kind satisfies never;
  }
}
