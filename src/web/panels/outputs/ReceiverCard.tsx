import { useEffect, useState } from 'react';
import { noteName } from '../../../core/midi/describe';
import type { RigDocument, RigOutput } from '../../../core/rig/document';
import type { Heard } from '../../../protocol/frames';
import { useLive } from '../../live/LiveProvider';
import type { MessageSpec } from '../../../core/messages';

interface ReceiverCardProps {
  output: RigOutput;
  rig: RigDocument;
}

/** A stand-in receiver and what it holds at each address it has heard. */
export function ReceiverCard({ output, rig }: ReceiverCardProps) {
  const heard = useHeard(output.id);
  const receiver = rig.receivers.find(({ id }) => id === output.receiver)!;
  return (
    <article className="receiver" aria-label={`Receiver ${receiver.name}`}>
      <header>
        <h2>{receiver.name}</h2>
        <span>stand-in</span>
      </header>
      <p>{receiver.about}</p>
      {heard.length === 0 ? (
        <p className="empty">Nothing heard yet. Open a surface and move something.</p>
      ) : (
        <ul>
          {heard.map((row) => (
            <li key={`${row.kind} ${row.channel} ${row.number}`}>
              <span className="address">{addressOf(row)}</span>
              <span className="name">{nameOf(row, output, rig)}</span>
              <span className="bar">
                <span style={{ transform: `scaleX(${row.value / (row.kind === 'pitchBend' ? 16383 : 127)})` }} />
              </span>
              <span className="value">{row.kind === 'note' && row.value === 0 ? 'off' : row.value}</span>
            </li>
          ))}
        </ul>
      )}
    </article>
  );
}

/** What an output hears, in the order of channel, kind and number. */
function useHeard(output: string): Heard[] {
  const live = useLive();
  const [heard, setHeard] = useState<Heard[]>([]);
  useEffect(() => live.store.heard.listen(output, (addresses) => setHeard([...addresses.values()].sort(byAddress))), [live, output]);
  return heard;
}

function byAddress(a: Heard, b: Heard): number {
  return a.channel - b.channel || a.kind.localeCompare(b.kind) || a.number - b.number;
}

function addressOf({ kind, channel, number }: Heard): string {
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

function nameOf({ kind, channel, number }: Heard, output: RigOutput, rig: RigDocument): string {
  const mapping = rig.mappings.find(({ output: target, message }) => target === output.id && hasAddress(message, kind, channel, number));
  return mapping?.name ?? '';
}

function hasAddress(message: MessageSpec, kind: Heard['kind'], channel: number, number: number): boolean {
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
