import { Input, Radio, Segmented, Select } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { freeName } from '../../../core/rig/naming';
import { Workbench } from '../../../core/surface/workbench';
import { DEVICE_SIZES, makeSurface, STARTERS, type Starter } from '../../../core/surface/starters';
import { Dialog } from '../shared/Dialog';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { useEdit, useRig } from '../shell/useRig';
import { useJoining } from './useJoining';
import shared from '../shared/shared.module.css';

const STARTER_WORDS: Readonly<Record<Starter, string>> = {
  empty: 'empty',
  'mixer strips': 'mixer strips: dial, fader and toggle, side by side',
  pads: 'pads, with buttons and a fader',
  keys: 'keys, with a strip and dials',
  'two XY pads': 'two XY pads with choices',
  tracks: 'tracks that keep their fingers',
  transport: 'transport: start, stop, continue, record',
  chords: 'a band: chords, a strum strip, switches for bass, drums and arpeggio',
};
const OWN = 'own';

/** A new surface: for which device, lying or upright, with what on it. */
export function NewSurface({ onClose }: { onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const router = useRouter();
  const { joining } = useJoining();
  const [name, setName] = useState(() => freeName('Surface', rig.surfaces.map((surface) => surface.name)));
  const [device, setDevice] = useState('Tablet');
  const [lying, setLying] = useState(true);
  const [own, setOwn] = useState({ width: 1180, height: 820 });
  const [starter, setStarter] = useState<Starter>('empty');
  const joined = (joining?.devices ?? []).map(({ id, name: called, width, height }) => ({ key: id, label: `${called}, joined`, width, height }));
  const sizes = [...joined, ...DEVICE_SIZES.map(({ name: key, width, height }) => ({ key, label: key, width, height }))];
  const chosen = sizes.find(({ key }) => key === device);
  const [short, long] = chosen ? [Math.min(chosen.width, chosen.height), Math.max(chosen.width, chosen.height)] : [0, 0];
  const size = chosen ? (lying ? { width: long, height: short } : { width: short, height: long }) : own;
  const make = () => {
    const bench = new Workbench(rig);
    const id = makeSurface(bench, name.trim(), size, starter);
    edit({ kind: 'change', changes: bench.squeezed });
    onClose();
    router.push(`/surfaces/${id}`);
  };
  return (
    <Dialog asksForText title="New surface" okText="Make it" okButtonProps={{ disabled: name.trim() === '' }} onOk={make} onCancel={onClose}>
      <Field label="Name">
        <Input aria-label="Name" maxLength={80} value={name} onChange={({ target }) => setName(target.value)} />
      </Field>
      <Field label="For">
        <Select aria-label="Device" value={device} listHeight={400} options={[...sizes.map(({ key, label, width, height }) => ({ value: key, label: `${label}, ${width} × ${height}` })), { value: OWN, label: 'a size of its own' }]} onChange={setDevice} />
      </Field>
      {device === OWN ? (
        <>
          <Field label="Width">
            <NumberBox label="Width" min={100} max={8192} whole value={own.width} onChange={(width) => setOwn({ ...own, width })} />
          </Field>
          <Field label="Height">
            <NumberBox label="Height" min={100} max={8192} whole value={own.height} onChange={(height) => setOwn({ ...own, height })} />
          </Field>
        </>
      ) : (
        <Field label="Held">
          <Segmented aria-label="Held" value={lying} options={[{ value: true, label: 'Lying' }, { value: false, label: 'Upright' }]} onChange={setLying} />
        </Field>
      )}
      <Radio.Group className={shared.starters} aria-label="Starts with" value={starter} onChange={({ target }) => setStarter(target.value as Starter)}>
        {STARTERS.map((each) => (
          <Radio key={each} value={each}>
            {STARTER_WORDS[each]}
          </Radio>
        ))}
      </Radio.Group>
    </Dialog>
  );
}
