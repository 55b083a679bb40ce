import { MEMBERS_MOST, type Layout } from '../../../core/receivers/layout';
import type { RigReceiver } from '../../../core/rig/document';
import { Labelled } from '../shared/Field';
import { EditSelect } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { runFrom } from './receiverText';

const LAYOUTS = [
  { value: 'one', label: 'on one channel' },
  { value: 'lower', label: 'MPE, lower zone' },
  { value: 'upper', label: 'MPE, upper zone' },
  { value: 'run', label: 'a run of channels, a voice each' },
] as const;

/** Where it has its voices. */
export function LayoutFields({ receiver: { layout }, put }: { receiver: RigReceiver; put: (fields: { layout: Layout | undefined }) => void }) {
  const kind = !layout ? 'one' : layout.kind === 'run' ? 'run' : layout.zone;
  const choose = (to: (typeof LAYOUTS)[number]['value']) => put({ layout: to === 'one' ? undefined : to === 'run' ? { kind: 'run', first: 1, last: 16 } : { kind: 'zone', zone: to, members: MEMBERS_MOST } });
  return (
    <>
      <Labelled label="Voices are">
        <EditSelect aria-label="Where its voices are" value={kind} options={[...LAYOUTS]} onChange={choose} />
      </Labelled>
      {layout?.kind === 'zone' && (
        <Labelled label="Members">
          <NumberBox label="Member channels" value={layout.members} min={1} max={MEMBERS_MOST} step={1} onChange={(members) => put({ layout: { ...layout, members } })} />
        </Labelled>
      )}
      {layout?.kind === 'run' && (
        <Labelled label="Channels">
          <TextField label="Channels of its voices" value={`${layout.first} to ${layout.last}`} maxLength={20} parse={runFrom} onChange={([first, last]) => put({ layout: { kind: 'run', first, last } })} />
        </Labelled>
      )}
    </>
  );
}
