import { Button } from 'antd';
import { useFeeds } from '../../live/feeds/FeedsProvider';
import { Labelled } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TAKING_KEY_NAMES } from '../shell/TakenOver';
import { MOST_LANES, type PointerTaking, TAKING_KEYS, USUAL_TAKING } from '../../../core/inputs/kinds/computer';
import type { RigInput } from '../../../core/inputs/kinds';
import { EditSelect } from '../shared/edit';
import shared from '../shared/shared.module.css';

interface TakeOverProps {
  input: Extract<RigInput, { kind: 'computer' }>;
  onChange: (taking: PointerTaking) => void;
}

/** How the computer's own mouse or touchpad plays while it is taken over, and the button that does so. */
export function TakeOver({ input, onChange }: TakeOverProps) {
  const { taker } = useFeeds();
  const taking = input.taking ?? USUAL_TAKING;
  const set = (fields: Partial<PointerTaking>) => onChange({ ...taking, ...fields });
  return (
    <>
      <h3>Mouse or touchpad, taken over</h3>
      <Labelled label="Plays">
        <EditSelect
          aria-label="The pointer plays"
          value={taking.as}
          options={[
            { value: 'lanes', label: 'lanes side by side' },
            { value: 'xy', label: 'x and y' },
          ]}
          onChange={(as) => set({ as })}
        />
      </Labelled>
      {taking.as === 'lanes' && (
        <Labelled label="Lanes">
          <NumberBox label="Lanes" min={1} max={MOST_LANES} step={1} value={taking.lanes} onChange={(lanes) => set({ lanes })} />
        </Labelled>
      )}
      <Labelled label="A value moves">
        <EditSelect
          aria-label="A value moves"
          value={taking.how}
          options={[
            { value: 'relative', label: 'from where it stands' },
            { value: 'pickUp', label: 'once the pointer meets it' },
          ]}
          onChange={(how) => set({ how })}
        />
      </Labelled>
      <Labelled label="While held">
        <EditSelect
          aria-label="Key that takes the pointer over while it is held"
          value={taking.key ?? ''}
          options={[{ value: '', label: 'no key' }, ...TAKING_KEYS.map((value) => ({ value, label: TAKING_KEY_NAMES[value] }))]}
          onChange={(key) => set({ key: TAKING_KEYS.find((one) => one === key) ?? null })}
        />
      </Labelled>
      <div className={shared.actions}>
        <Button disabled={!taker} onClick={() => void taker?.take()}>
          Take it over now
        </Button>
      </div>
      <p className={shared.empty}>{taker ? 'Until Escape. Its lanes, wheel and buttons are signals of this input.' : 'This window does not use keyboard and pointer now: switch them on under “Add an input”.'}</p>
    </>
  );
}
