import { Button, Radio, Select } from 'antd';
import { useEffect, useState } from 'react';
import { MovedFinder } from '../../../core/gesture/moved';
import { addMapping, proposeMessages, type Proposal } from '../../../core/ledger/propose';
import type { RigDerived, RigSignal } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import { Labelled } from '../shared/Field';
import { LiveNumber } from '../shared/LiveNumber';
import { SignalTrace } from '../shared/SignalTrace';
import { useEdit, useRig } from '../shell/useRig';
import { usePanel } from '../shared/usePanel';
import type { RecentMoves } from './useRecentMoves';
import { addressInWords } from '../../../core/messages';
import { EditButton } from '../shared/edit';
import shaping from './shaping.module.css';
import styles from './MapByMoving.module.css';
import shared from '../shared/shared.module.css';

const LOOK_MS = 50;

const KIND_WORDS: Record<Proposal['kind'], string> = {
  controller: 'Controller',
  'fine controller': 'Controller of 14 bits',
  bend: 'Pitch bend',
  pressure: 'Pressure',
  note: 'Note',
  program: 'Program change',
  start: 'Start',
  stop: 'Stop',
  osc: 'OSC message',
};

interface MapByMovingProps {
  recent: RecentMoves;
  onDone: (mapping: string) => void;
  onClose: () => void;
}

/** Move the thing, choose what it sends, done. */
export function MapByMoving({ recent, onDone, onClose }: MapByMovingProps) {
  const { document: rig } = useRig();
  const [signalId, setSignalId] = useState<string | null>(null);
  const found = signalId === null ? undefined : findSignal(rig, signalId);
  const panel = usePanel<HTMLElement>(onClose);
  return (
    <aside ref={panel} tabIndex={-1} className={`${shaping.shaping} ${styles.mapByMoving}`} aria-label="Map by moving">
      <header>
        <h2>Map by moving</h2>
        <Button type="text" aria-label="Close" onClick={onClose}>
          ✕
        </Button>
      </header>
      {found ? (
        <Choose signal={found.signal} from={found.from} onDone={onDone} onAgain={() => setSignalId(null)} />
      ) : (
        <Listen recent={recent} onMoved={setSignalId} />
      )}
    </aside>
  );
}

function Listen({ recent, onMoved }: { recent: RecentMoves; onMoved: (signal: string) => void }) {
  const { document: rig } = useRig();
  const [ready, setReady] = useState(false);
  useEffect(() => {
    const finder = new MovedFinder(new Map(rig.signals.filter((signal) => !signal.hidden).map((signal) => [signal.id, signal])));
    // Who moves a thing and then presses M means what was moved; right after the screen opened values come without a move.
    const known = recent.isReady();
    for (const [id, values] of recent.values()) for (const { timeMs, value } of known ? values : values.slice(-1)) finder.value(id, value, timeMs);
    const remove = recent.listen((id, value, timeMs) => finder.value(id, value, timeMs));
    const timer = setInterval(() => {
      setReady(recent.isReady());
      const found = finder.found(performance.now());
      if (found !== null) onMoved(found);
    }, LOOK_MS);
    return () => {
      clearInterval(timer);
      remove();
    };
    // It listens from when it appears, whatever is edited meanwhile.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [recent]);
  return (
    <p className={styles.moveIt} role="status">
      {ready ? 'Listening: move the thing that you want to map.' : 'Looking where everything lies…'} <span>Escape leaves.</span>
    </p>
  );
}

interface ChooseProps {
  signal: RigSignal | RigDerived;
  from: string;
  onDone: (mapping: string) => void;
  onAgain: () => void;
}

function Choose({ signal, from, onDone, onAgain }: ChooseProps) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const before = rig.mappings.filter((mapping) => mapping.signal === signal.id);
  const sibling = 'input' in signal ? rig.mappings.find((mapping) => rig.signals.find(({ id }) => id === mapping.signal)?.input === signal.input) : undefined;
  const [output, setOutput] = useState(sibling?.output ?? rig.outputs[0]?.id ?? '');
  const proposals = proposeMessages(rig, signal, output);
  const [kind, setKind] = useState<Proposal['kind'] | null>(null);
  const chosen = proposals.find((proposal) => proposal.kind === kind) ?? proposals[0];
  const map = () => {
    if (!chosen) return;
    const { change, id } = addMapping(rig, signal, output, chosen.message);
    edit({ kind: 'change', changes: [change] });
    onDone(id);
  };
  return (
    <>
      <div className={styles.moved}>
        <strong>{signal.name}</strong>
        <span>{from}</span>
        <LiveNumber signal={signal} />
      </div>
      <SignalTrace signal={signal} />
      {before.length > 0 && <p className={shared.hint}>It drives {before.map(({ name }) => name).join(', ')} already; this is one more.</p>}
      <Labelled label="To">
        <Select aria-label="Output" value={output} options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={setOutput} />
      </Labelled>
      <Radio.Group className={styles.proposed} aria-label="Message" value={chosen?.kind} onChange={({ target }) => setKind(target.value as Proposal['kind'])}>
        {proposals.map((proposal) => (
          <Radio key={proposal.kind} value={proposal.kind}>
            <span>{KIND_WORDS[proposal.kind]}</span> <small>{addressInWords(proposal.message)}</small>
          </Radio>
        ))}
      </Radio.Group>
      {proposals.length === 0 && <p className={shared.hint}>Voices have every channel of this output: choose another one.</p>}
      <div className={shared.actions}>
        <EditButton type="primary" autoFocus disabled={!chosen} onClick={map}>
          Map it
        </EditButton>
        <Button onClick={onAgain}>Something else</Button>
      </div>
    </>
  );
}
