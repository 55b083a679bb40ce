import { Button } from 'antd';
import { useIntroducing } from '../../live/useLiveFacts';
import { EditButton, EditMenu } from '../shared/edit';
import { useTellNow } from '../shell/useTellNow';

/** Sends this mapping or voice mapping alone, so that a receiver learns it without hearing its neighbours; voices are played by hand. */
export function Introduce({ mapping, voices = false }: { mapping: string; voices?: boolean }) {
  const tell = useTellNow();
  const introducing = useIntroducing();
  if (introducing === mapping) return <Button onClick={() => tell({ kind: 'introduce', mapping: null })}>End</Button>;
  if (voices) {
    return (
      <EditButton onClick={() => tell({ kind: 'introduce', mapping, how: 'follow' })}>
        Introduce
      </EditButton>
    );
  }
  return (
    <EditMenu
      items={[
        { key: 'sweep', label: 'As a slow sweep', onClick: () => tell({ kind: 'introduce', mapping, how: 'sweep' }) },
        { key: 'follow', label: 'Following the hand', onClick: () => tell({ kind: 'introduce', mapping, how: 'follow' }) },
      ]}
    >
      <Button>Introduce</Button>
    </EditMenu>
  );
}
