import { NameField } from '../shared/NameField';
import { useEdit, useRig } from './useRig';
import styles from './RigName.module.css';

/** The name of the rig, to be written over on the Bench, and when it was saved. */
export function RigName() {
  const { document, savedAtMs } = useRig();
  const edit = useEdit();
  return (
    <div className={styles.rigName} data-always>
      <NameField label="Name of the rig" name={document.name} onChange={(name) => edit({ kind: 'setRig', set: { name } })} />
      <span suppressHydrationWarning>saved {new Date(savedAtMs).toLocaleTimeString('en-GB')}</span>
    </div>
  );
}
