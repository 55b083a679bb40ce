import { Input, Radio } from 'antd';
import { useState } from 'react';
import { newRig, RIG_STARTERS, type RigStarter } from '../../../core/rig/starters';
import type { RigDocument } from '../../../core/rig/document';
import { LIMITS } from '../../../protocol/limits';
import { Dialog } from '../shared/Dialog';
import { Field } from '../shared/Field';
import shared from '../shared/shared.module.css';

const WORDS: Readonly<Record<RigStarter, string>> = {
  empty: 'empty',
  tablet: 'a tablet with mixer strips, and a stand-in to practise with',
  keys: 'a tablet with keys, strip and dials, and a stand-in',
  split: 'a keyboard, split at middle C, and a stand-in for each side',
  chords: 'a band on one tablet: chords, strum, bass, drums and arpeggio, with a stand-in for each',
  'plugged in': 'a stand-in for what is plugged in: a gamepad, sensors, a keyboard',
};

/** A new rig, with something to begin with. */
export function NewRig({ name: first, onMake, onClose }: { name: string; onMake: (rig: RigDocument) => void; onClose: () => void }) {
  const [name, setName] = useState(first);
  const [starter, setStarter] = useState<RigStarter>('empty');
  return (
    <Dialog asksForText title="New rig" okText="Make it and open it" okButtonProps={{ disabled: name.trim() === '' }} onOk={() => onMake(newRig(name.trim(), starter))} onCancel={onClose}>
      <Field label="Name">
        <Input aria-label="Name of the new rig" maxLength={LIMITS.nameLength} value={name} onChange={({ target }) => setName(target.value)} />
      </Field>
      <Radio.Group className={shared.starters} aria-label="Begins with" value={starter} onChange={({ target }) => setStarter(target.value as RigStarter)}>
        {RIG_STARTERS.map((each) => (
          <Radio key={each} value={each}>
            {WORDS[each]}
          </Radio>
        ))}
      </Radio.Group>
    </Dialog>
  );
}
