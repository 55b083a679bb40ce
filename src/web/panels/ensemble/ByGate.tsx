import { BY_GATE, gateScene, withGate } from '../../../core/rig/sceneTransport';
import { EditButton } from '../shared/edit';
import { Popup } from '../shared/Popup';
import { useEdit, useRig } from '../shell/useRig';
import { SignalChoice } from './choices';
import styles from './ensemble.module.css';

const DOES = Object.keys(BY_GATE) as (keyof typeof BY_GATE)[];

/** Which gates, of a pedal say, tap the tempo and start and stop; each by a scene that holds nothing else. */
export function ByGate() {
  const { document: rig } = useRig();
  const edit = useEdit();
  const choose = (does: (typeof DOES)[number], signal: string | undefined) => {
    const changes = withGate(rig, does, signal ?? null);
    if (changes.length > 0) edit({ kind: 'change', changes });
  };
  const fields = DOES.map((does) => <SignalChoice key={does} label={BY_GATE[does]} rig={rig} gates none="by no gate" value={gateScene(rig, does)?.recalledBy?.signal} onChange={(signal) => choose(does, signal)} />);
  return (
    <Popup title="By a gate: a pedal, a key, a gesture" content={<div className={styles.byGate}>{fields}</div>}>
      <EditButton>By a gate…</EditButton>
    </Popup>
  );
}
