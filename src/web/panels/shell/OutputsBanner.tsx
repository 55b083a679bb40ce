import { useOutputsState } from '../../live/useLiveFacts';
import { missingOutputs } from '../shared/missingOutputs';
import styles from './OutputsBanner.module.css';
import { useRig } from './useRig';

/** Names the outputs that are not there, on every screen; everything else plays on. */
export function OutputsBanner() {
  const { document: rig } = useRig();
  const missing = missingOutputs(rig, useOutputsState());
  return (
    <div role="status" className={styles.banner}>
      {missing.length > 0 && `${missing.map(({ name, why }) => `${name} ${why}`).join('; ')}. Everything else plays on.`}
    </div>
  );
}
