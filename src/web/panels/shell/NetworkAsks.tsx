import { Button } from 'antd';
import { LIMITS } from '../../../protocol/limits';
import { useOutputsState } from '../../live/useLiveFacts';
import { useNetworkSettings } from '../shared/useNetworkSettings';
import styles from './NetworkAsks.module.css';
import { useRig } from './useRig';

/** Who wants to connect over network MIDI and is not known yet, on every screen of the Bench: asked once, remembered. */
export function NetworkAsks() {
  const { stage } = useRig();
  const { change } = useNetworkSettings();
  const asking = useOutputsState()?.network.asking ?? [];
  if (stage) return null;
  const answer = (name: string, address: string, may: boolean) => change(({ known }) => ({ // Of very many the oldest are forgotten.
      known: [...known.filter((one) => one.name !== name || one.address !== address), { name, address, may }].slice(-LIMITS.networkGuests),
    }));
  return (
    <div role="status">
      {asking.map(({ name, address, session }) => (
        <p key={`${name} ${address}`} className={styles.ask}>
          <span>
            <strong>{name}</strong>, at {address}, wants to play over the network, in {session}.
          </span>
          <Button type="primary" onClick={() => void answer(name, address, true)}>
            Let in
          </Button>
          <Button onClick={() => void answer(name, address, false)}>Refuse</Button>
        </p>
      ))}
    </div>
  );
}
