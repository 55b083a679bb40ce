import { App, Button } from 'antd';
import { useEffect, useState } from 'react';
import { zeroedAt } from '../../../core/signal/calibration';
import type { Change } from '../../../core/rig/edit';
import { removeInput } from '../../../core/rig/remove';
import { writeRecordingCsv } from '../../../protocol/recordingFile';
import { useLive } from '../../live/LiveProvider';
import { useEdit, useRig } from '../shell/useRig';
import { Aside } from '../shared/Aside';
import { Labelled } from '../shared/Field';
import { download } from '../shared/download';
import { useCapture } from '../shared/useCapture';
import { addressFrom } from '../shared/fromText';
import { TextField } from '../shared/TextField';
import { NumberBox } from '../shared/NumberBox';
import { Removal } from '../shared/Removal';
import { StreamFields } from './StreamFields';
import { TakeOver } from './TakeOver';
import { ThruFields } from './ThruFields';
import { inputInWords } from '../../../core/inputs/kinds';
import type { RigInput } from '../../../core/inputs/kinds';
import type { FeedIdentity } from '../../../core/inputs/kinds/kind';
import { counted } from '../../../core/units/counted';
import { EditButton, EditSelect, EditSwitch } from '../shared/edit';
import shared from '../shared/shared.module.css';

/** One input: hidden, swapped, recorded, removed, and what its kind can do. */
export function InputSettingsPanel({ input, onClose }: { input: RigInput; onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const set = (fields: Record<string, unknown>) => edit({ kind: 'setInput', input: input.id, set: fields });
  return (
    <Aside title={input.name} onClose={onClose}>
      <p className={shared.empty}>{inputInWords(input)}</p>
      <Labelled label="Hidden">
        <EditSwitch checked={input.hidden === true} onChange={(hidden) => set({ hidden: hidden || null })} />
      </Labelled>
      {input.kind === 'recording' && (
        <>
          <Labelled label="Speed">
            <NumberBox label="Speed" min={0.05} max={20} step={0.25} value={input.speed} onChange={(speed) => set({ speed })} />
          </Labelled>
          <Labelled label="Again and again">
            <EditSwitch checked={input.loop} onChange={(loop) => set({ loop })} />
          </Labelled>
        </>
      )}
      {input.kind === 'points' && (
        <>
          <Labelled label="OSC address">
            <TextField label="OSC address of the points" value={input.address} parse={addressFrom} onChange={(address) => set({ address })} />
          </Labelled>
          <Labelled label="A lost point">
            <EditSelect
              aria-label="A lost point"
              value={input.lost}
              options={[
                { value: 'hold', label: 'stays where it was' },
                { value: 'rest', label: 'returns to rest' },
              ]}
              onChange={(lost) => set({ lost })}
            />
          </Labelled>
        </>
      )}
      {input.kind === 'motion' && <SetToZero input={input} />}
      {input.kind === 'midi' && (
        <Labelled label="Clock sets tempo">
          <EditSwitch checked={input.followsClock === true} onChange={(on) => set({ followsClock: on || null })} />
        </Labelled>
      )}
      {input.kind === 'midi' && <StreamFields input={input} />}
      {input.kind === 'midi' && <ThruFields thru={input.thru} onChange={(thru) => set({ thru })} />}
      {input.kind === 'computer' && <TakeOver input={input} onChange={(taking) => set({ taking })} />}
      <Swap input={input} />
      <Recorder input={input} />
      {input.kind !== 'surface' && <Removal name={input.name} changes={() => removeInput(rig, input.id)} goesWith={whatHangsOnIt} onRemoved={onClose} />}
    </Aside>
  );
}

function whatHangsOnIt(changes: readonly Change[]): string {
  const gone = (...lists: string[]) => changes.filter(({ list, to }) => lists.includes(list) && to === null).length;
  return `With it go ${counted(gone('signals'), 'signal')}, ${counted(gone('derived'), 'derived signal')} and ${counted(gone('mappings', 'voiceMappings'), 'mapping')}.`;
}

/** How the device is held now is level from now on. */
function SetToZero({ input }: { input: RigInput }) {
  const { document: rig } = useRig();
  const { message } = App.useApp();
  const edit = useEdit();
  const live = useLive();
  const angles = rig.signals.filter((signal) => signal.input === input.id && signal.unit === 'deg');
  const ids = angles.map(({ id }) => id).join('\n');
  // Where each of them is now is known while it is listened to, though its line may be folded or out of sight.
  useEffect(() => {
    if (ids === '') return;
    const ends = ids.split('\n').map((id) => live.store.signals.listen(id, () => undefined));
    return () => ends.forEach((end) => end());
  }, [ids, live]);
  const zero = () => {
    const changes = angles.flatMap((signal): Change[] => {
      const value = live.store.signals.value(signal.id);
      return value === undefined ? [] : [{ list: 'signals', id: signal.id, to: { ...signal, calibration: zeroedAt(signal.calibration, value) } }];
    });
    if (changes.length > 0) edit({ kind: 'change', changes });
    else void message.info('No angle of this device was heard yet: move it, then try again.');
  };
  return (
    <EditButton disabled={angles.length === 0} onClick={zero}>
      As it is held now is level
    </EditButton>
  );
}

function identityOf(input: RigInput): FeedIdentity | undefined {
  return 'device' in input ? input.device : undefined;
}

/** Exchanges this input's device with that of another of the same kind. */
function Swap({ input }: { input: RigInput }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const mine = identityOf(input);
  const others = rig.inputs.filter((other) => other.id !== input.id && other.kind === input.kind && identityOf(other));
  if (!mine || others.length === 0) return null;
  const swap = (id: string) => {
    const other = others.find((candidate) => candidate.id === id)!;
    const theirs = identityOf(other)!;
    edit({
      kind: 'change',
      changes: [
        { list: 'inputs', id: input.id, to: { ...input, device: theirs } as RigInput },
        { list: 'inputs', id: other.id, to: { ...other, device: mine } as RigInput },
      ],
    });
  };
  return (
    <>
      <h3>Swap</h3>
      <Labelled label="Change places with">
        <EditSelect aria-label="Change places with" placeholder="another" value={null} options={others.map(({ id, name }) => ({ value: id, label: name }))} onChange={(id: string | null) => id !== null && swap(id)} />
      </Labelled>
    </>
  );
}

/** Records everything that the input says, as a file that can be played as an input later. */
function Recorder({ input }: { input: RigInput }) {
  const { document: rig } = useRig();
  const [on, setOn] = useState(false);
  const names = new Map(rig.signals.filter((signal) => signal.input === input.id).map(({ id, name }) => [id, name]));
  const { count, take } = useCapture([...names.keys()], on);
  const rows = () => {
    const all = [...take()].flatMap(([id, { timesMs, values }]) => timesMs.map((timeMs, i) => ({ timeMs, signal: names.get(id) ?? id, value: values[i]! })));
    all.sort((a, b) => a.timeMs - b.timeMs);
    const startMs = all[0]?.timeMs ?? 0;
    return all.map((row) => ({ ...row, timeMs: Math.round((row.timeMs - startMs) * 1000) / 1000 }));
  };
  return (
    <>
      <h3>Record</h3>
      <div className={shared.actions}>
        <Button aria-pressed={on} onClick={() => setOn(!on)}>
          {on ? 'Stop recording' : 'Record this input'}
        </Button>
        <Button disabled={on || count === 0} onClick={() => download(`${input.name}.csv`, writeRecordingCsv(rows()), 'text/csv')}>
          CSV
        </Button>
        <Button disabled={on || count === 0} onClick={() => download(`${input.name}.jsonl`, rows().map((row) => `${JSON.stringify(row)}\n`).join(''), 'application/jsonl')}>
          JSON lines
        </Button>
      </div>
      <p className={shared.missed}>{count > 0 && `${count} numbers`}</p>
    </>
  );
}
