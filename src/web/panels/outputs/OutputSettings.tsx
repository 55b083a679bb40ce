import { goingWithOutput, leadTo, unusedPorts, type Leads } from '../../../core/outputs/addOutput';
import { FILTER_KINDS, type FilterKind, type OutputFilter } from '../../../core/outputs/filter';
import { outputInWords, type RigOutput } from '../../../core/outputs/kinds';
import { DELAY_MOST_MS, DIN_BYTES_PER_S } from '../../../core/outputs/kinds/kind';
import type { Change } from '../../../core/rig/edit';
import { outputsTaking, takes } from '../../../core/rig/outputs';
import { remove } from '../../../core/rig/remove';
import { LIMITS } from '../../../protocol/limits';
import { useOutputsState } from '../../live/useLiveFacts';
import { Aside } from '../shared/Aside';
import { Field, Labelled } from '../shared/Field';
import { EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { Removal } from '../shared/Removal';
import { TextField } from '../shared/TextField';
import { useEdit, useRig } from '../shell/useRig';
import { hostFrom, nameFrom } from '../shared/fromText';
import { CHANNELS } from './fields';
import { networkLeads } from './networkLeads';
import { ReceiverFields } from './ReceiverFields';
import { SendByHand } from './SendByHand';
import styles from './outputs.module.css';
import shared from '../shared/shared.module.css';

/** Fields to be set; undefined and false leave one out. */
type Fields = Record<string, unknown>;

const KIND_WORDS: Record<FilterKind, string> = { notes: 'notes', controllers: 'controllers', programs: 'programs', pressure: 'pressure', bend: 'bend', sysEx: 'SysEx', clock: 'clock and transport' };
const USB_BYTES_PER_S = 100_000;
const SPEEDS = [
  { value: 0, label: 'as fast as it comes' },
  { value: USB_BYTES_PER_S, label: 'USB, 100,000 bytes/s' },
  { value: DIN_BYTES_PER_S, label: 'DIN, 3,125 bytes/s' },
];

/** One output: where it leads, what it plays, and what is done on the way. */
export function OutputSettings({ output, onClose }: { output: RigOutput; onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const put = (to: RigOutput) => edit({ kind: 'change', changes: [{ list: 'outputs', id: output.id, to }] });
  const set = (fields: Fields) => put(Object.fromEntries(Object.entries({ ...output, ...fields }).filter(([, value]) => value !== undefined && value !== false)) as unknown as RigOutput);
  const isMidi = takes(output) === 'midi';
  return (
    <Aside title={output.name} onClose={onClose}>
      <Labelled label="Name">
        <TextField label="Name of the output" value={output.name} maxLength={LIMITS.nameLength} parse={nameFrom} onChange={(name) => set({ name })} />
      </Labelled>
      <Labelled label="Leads to">
        <LeadsTo output={output} onChange={(leads) => put(leadTo(output, leads))} />
      </Labelled>
      {output.kind === 'osc' && (
        <Field label="Address">
          <span className={styles.two}>
            <TextField label="IP address" value={output.host} maxLength={45} parse={hostFrom} onChange={(host) => set({ host })} />
            <NumberBox label="UDP port" value={output.port} min={1} max={65535} whole onChange={(port) => set({ port })} />
          </span>
        </Field>
      )}
      {output.kind === 'virtual' && (
        <Labelled label="Its name there">
          <TextField label="Name of the port" value={output.port} maxLength={80} parse={nameFrom} onChange={(port) => set({ port })} />
        </Labelled>
      )}
      <Labelled label="Mute">
        <EditSwitch checked={output.muted === true} onChange={(muted) => set({ muted })} />
      </Labelled>
      <Labelled label="Delay, ms">
        <NumberBox label="Delay in ms" value={output.delayMs ?? 0} min={0} max={DELAY_MOST_MS} step={1} onChange={(delayMs) => set({ delayMs: delayMs === 0 ? undefined : delayMs })} />
      </Labelled>
      {isMidi && <ComesBack output={output} set={set} />}
      {isMidi && <OnTheWay output={output} set={set} />}
      <ReceiverFields output={output} />
      {isMidi && <SendByHand output={output.id} />}
      <Removal name={output.name} changes={() => remove(rig, goingWithOutput(rig, output.id))} goesWith={whatSendsThere} onRemoved={onClose} />
    </Aside>
  );
}

function whatSendsThere(changes: readonly Change[]): string {
  const count = changes.filter(({ list, to }) => (list === 'mappings' || list === 'voiceMappings') && to === null).length;
  return count === 0 ? 'No mapping sends there.' : `${count} ${count === 1 ? 'mapping that sends there goes' : 'mappings that send there go'} with it.`;
}

/** The input by which its receiver says at what value it stands. */
function ComesBack({ output, set }: { output: RigOutput; set: (fields: Fields) => void }) {
  const { document: rig } = useRig();
  const inputs = rig.inputs.filter(({ kind }) => kind === 'midi').map(({ id, name }) => ({ value: id, label: name }));
  return (
    <Labelled label="Values come back">
      <EditSelect aria-label="Values come back by" disabled={inputs.length === 0 && output.comesBack === undefined} value={output.comesBack ?? ''} options={[{ value: '', label: inputs.length === 0 ? 'no MIDI input is here' : 'no' }, ...inputs.map(({ value, label }) => ({ value, label: `by ${label}` }))]} onChange={(input) => set({ comesBack: input === '' ? undefined : input })} />
    </Labelled>
  );
}

/** Other places that it could lead to. */
function LeadsTo({ output, onChange }: { output: RigOutput; onChange: (leads: Leads) => void }) {
  const { document: rig } = useRig();
  const state = useOutputsState();
  const places: { label: string; leads: Leads }[] = [
    ...(['port', 'page'] as const).flatMap((kind) =>
      unusedPorts(rig, kind, (kind === 'port' ? state?.ports : state?.lent) ?? []).map((device) => ({ label: `${device.report}${device.slot > 1 ? `, number ${device.slot}` : ''}${kind === 'page' ? ', of a browser' : ''}`, leads: { kind, device } as Leads })),
    ),
    ...networkLeads(rig, state?.network).map(({ name, leads }) => ({ label: `${name}, over the network`, leads })),
    ...(state?.canMake && output.kind !== 'virtual' ? [{ label: `virtual port ${output.name}`, leads: { kind: 'virtual', port: output.name } as Leads }] : []),
    ...(output.kind === 'standIn' ? [] : [{ label: 'stand-in', leads: { kind: 'standIn' } as Leads }]),
  ];
  // To OSC and from it: what sends there would have to be another kind of message.
  const possible = takes(output) === 'osc' ? [] : places;
  return (
    <EditSelect
      aria-label="Leads to"
      disabled={possible.length === 0}
      value={-1}
      options={[{ value: -1, label: outputInWords(output) }, ...possible.map(({ label }, i) => ({ value: i, label }))]}
      onChange={(i) => i >= 0 && onChange(possible[i]!.leads)}
    />
  );
}

/** What is held back, slowed or sent elsewhere before it gets there. */
function OnTheWay({ output, set }: { output: RigOutput; set: (fields: Fields) => void }) {
  const { document: rig } = useRig();
  const { filter = {}, configuration } = output;
  const setFilter = (fields: Partial<OutputFilter>) => {
    const kept = Object.fromEntries(Object.entries({ ...filter, ...fields }).filter(([, value]) => value && value.length > 0));
    set({ filter: Object.keys(kept).length === 0 ? undefined : kept });
  };
  const others = outputsTaking(rig, 'midi').filter(({ id }) => id !== output.id);
  return (
    <>
      <Labelled label="Speed">
        <EditSelect
          aria-label="Speed"
          value={output.bytesPerS ?? 0}
          options={SPEEDS.some(({ value }) => value === (output.bytesPerS ?? 0)) ? SPEEDS : [...SPEEDS, { value: output.bytesPerS!, label: `${output.bytesPerS!.toLocaleString('en')} bytes/s` }]}
          onChange={(bytesPerS) => set({ bytesPerS: bytesPerS === 0 ? undefined : bytesPerS })}
        />
      </Labelled>
      <Labelled label="Sends clock">
        <EditSwitch checked={output.sendsClock === true} onChange={(sendsClock) => set({ sendsClock })} />
      </Labelled>
      <h3>What may leave</h3>
      <Labelled label="Channels">
        <EditSelect aria-label="Channels that leave" mode="multiple" maxTagCount="responsive" placeholder="all" value={filter.channels ?? []} options={CHANNELS.map((value) => ({ value, label: value }))} onChange={(channels) => setFilter({ channels })} />
      </Labelled>
      <Labelled label="But not">
        <EditSelect aria-label="Kinds that do not leave" mode="multiple" placeholder="nothing is held back" value={filter.without ?? []} options={FILTER_KINDS.map((value) => ({ value, label: KIND_WORDS[value] }))} onChange={(without) => setFilter({ without })} />
      </Labelled>
      <Labelled label="Nor controllers">
        <EditSelect aria-label="Controllers that do not leave" mode="multiple" placeholder="none" value={filter.withoutControllers ?? []} options={Array.from({ length: 128 }, (_, value) => ({ value, label: `CC ${value}` }))} onChange={(withoutControllers) => setFilter({ withoutControllers })} />
      </Labelled>
      <Labelled label="Setting it up">
        <EditSelect
          aria-label="SysEx, parameters, banks and programs"
          value={configuration === undefined ? '' : configuration === 'blocked' ? 'blocked' : `to ${configuration.to}`}
          options={[{ value: '', label: 'leaves here too' }, { value: 'blocked', label: 'does not leave' }, ...others.map(({ id, name }) => ({ value: `to ${id}`, label: `leaves by ${name}` }))]}
          onChange={(value) => set({ configuration: value === '' ? undefined : value === 'blocked' ? 'blocked' : { to: value.slice(3) } })}
        />
      </Labelled>
      <p className={shared.empty}>Setting up is SysEx, parameters (RPN), banks and programs.</p>
    </>
  );
}
