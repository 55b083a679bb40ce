import type { RigDocument, ShownOn } from '../../../core/rig/document';
import { outputsTaking } from '../../../core/rig/outputs';
import { Labelled } from '../shared/Field';
import { EditSelect } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';

const AS = [
  { value: 'controller', label: 'a controller: ring, motor' },
  { value: 'note', label: 'a note: lamp' },
  { value: 'bend', label: 'a bend: motor of 14 bits' },
] as const;
const NOWHERE = ' nowhere';
const FIRST: Omit<ShownOn, 'output'> = { as: 'controller', channel: 1, number: 20, from: 0, to: 127 };
const most = (as: ShownOn['as']) => (as === 'bend' ? 16383 : 127);

interface ShownOnFieldsProps {
  rig: RigDocument;
  shownOn: ShownOn | undefined;
  onChange: (shownOn: ShownOn | null) => void;
}

/** Where the level of a mapping is shown: on rings, lamps and motors of a controller that Pumice can write to. */
export function ShownOnFields({ rig, shownOn, onChange }: ShownOnFieldsProps) {
  const outputs = outputsTaking(rig, 'midi').map(({ id, name }) => ({ value: id, label: name }));
  const number = (label: string, field: 'channel' | 'number' | 'from' | 'to', least: number, largest: number) =>
    shownOn && (
      <Labelled label={label}>
        <NumberBox label={`${label}, where it is shown`} whole min={least} max={largest} value={shownOn[field] ?? 0} onChange={(value) => onChange({ ...shownOn, [field]: value })} />
      </Labelled>
    );
  const as = (to: ShownOn['as']) => {
    const { output, channel } = shownOn!;
    onChange({ output, channel, as: to, ...(to === 'bend' ? {} : { number: shownOn!.number ?? FIRST.number! }), from: 0, to: most(to) });
  };
  return (
    <>
      <Labelled label="Shown on">
        <EditSelect aria-label="Shown on" value={shownOn?.output ?? NOWHERE} options={[{ value: NOWHERE, label: 'no controller' }, ...outputs]} onChange={(output) => onChange(output === NOWHERE ? null : { ...(shownOn ?? FIRST), output })} />
      </Labelled>
      {shownOn && (
        <>
          <Labelled label="As">
            <EditSelect aria-label="How it is shown" value={shownOn.as} options={[...AS]} onChange={as} />
          </Labelled>
          {number('Channel', 'channel', 1, 16)}
          {shownOn.as !== 'bend' && number(shownOn.as === 'note' ? 'Note' : 'Number', 'number', 0, 127)}
          {number(shownOn.as === 'note' ? 'Off' : 'Lowest', 'from', 0, most(shownOn.as))}
          {number(shownOn.as === 'note' ? 'On' : 'Highest', 'to', 0, most(shownOn.as))}
        </>
      )}
    </>
  );
}
