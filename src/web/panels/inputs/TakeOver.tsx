import { Button, Select } from 'antd';
import { useDevices } from '../../live/devices/DevicesProvider';
import { NumberBox } from '../shared/NumberBox';
import { TAKING_KEY_NAMES } from '../shell/TakenOver';
import { useRig } from '../shell/useRig';
import { Field } from '../shared/Aside';
import { MOST_LANES, type PointerTaking, TAKING_KEYS, USUAL_TAKING } from '../../../core/inputs/kinds/computer';
import type { RigInput } from '../../../core/inputs/kinds';
import shared from '../shared/shared.module.css';

interface TakeOverProps {
  input: Extract<RigInput, { kind: 'computer' }>;
  onChange: (taking: PointerTaking) => void;
}

/** How the computer's own mouse or touchpad plays while it is taken over, and the button that does so. */
export function TakeOver({ input, onChange }: TakeOverProps) {
  const { stage } = useRig();
  const { taker } = useDevices();
  const taking = input.taking ?? USUAL_TAKING;
  const set = (fields: Partial<PointerTaking>) => onChange({ ...taking, ...fields });
  return (
    <>
      <h3>Mouse or touchpad, taken over</h3>
      <Field label="Plays">
        <Select
          aria-label="The pointer plays"
          disabled={stage}
          value={taking.as}
          options={[
            { value: 'lanes', label: 'lanes side by side' },
            { value: 'xy', label: 'x and y' },
          ]}
          onChange={(as) => set({ as })}
        />
      </Field>
      {taking.as === 'lanes' && (
        <Field label="Lanes">
          <NumberBox label="Lanes" min={1} max={MOST_LANES} step={1} disabled={stage} value={taking.lanes} onChange={(lanes) => set({ lanes })} />
        </Field>
      )}
      <Field label="A value moves">
        <Select
          aria-label="A value moves"
          disabled={stage}
          value={taking.how}
          options={[
            { value: 'relative', label: 'from where it stands' },
            { value: 'pickUp', label: 'once the pointer meets it' },
          ]}
          onChange={(how) => set({ how })}
        />
      </Field>
      <Field label="While held">
        <Select
          aria-label="Key that takes the pointer over while it is held"
          disabled={stage}
          value={taking.key ?? ''}
          options={[{ value: '', label: 'no key' }, ...TAKING_KEYS.map((value) => ({ value, label: TAKING_KEY_NAMES[value] }))]}
          onChange={(key) => set({ key: TAKING_KEYS.find((one) => one === key) ?? null })}
        />
      </Field>
      <div className={shared.actions}>
        <Button disabled={!taker} onClick={() => void taker?.take()}>
          Take it over now
        </Button>
      </div>
      <p className={shared.empty}>{taker ? 'Until Escape. Its lanes, wheel and buttons are signals of this input.' : 'This window does not use keyboard and pointer now: switch them on under “Add an input”.'}</p>
    </>
  );
}
