import { Button, Dropdown } from 'antd';
import { useLive } from '../../live/LiveProvider';
import { useIntroducing } from '../../live/useLiveFacts';
import { useRig } from '../shell/useRig';

/** Sends this mapping alone, so that a receiver learns it without hearing its neighbours. */
export function Introduce({ mapping }: { mapping: string }) {
  const live = useLive();
  const { stage } = useRig();
  const introducing = useIntroducing();
  if (introducing === mapping) return <Button onClick={() => live.tell({ kind: 'introduce', mapping: null })}>End</Button>;
  return (
    <Dropdown
      trigger={['click']}
      disabled={stage}
      menu={{
        items: [
          { key: 'sweep', label: 'As a slow sweep', onClick: () => live.tell({ kind: 'introduce', mapping, how: 'sweep' }) },
          { key: 'follow', label: 'Following the hand', onClick: () => live.tell({ kind: 'introduce', mapping, how: 'follow' }) },
        ],
      }}
    >
      <Button>Introduce</Button>
    </Dropdown>
  );
}
