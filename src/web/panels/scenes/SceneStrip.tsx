import { Button, Input } from 'antd';
import { useState } from 'react';
import type { RigScene } from '../../../core/rig/document';
import { takeScene } from '../../../core/rig/scene';
import { useLastScene } from '../../live/useLiveFacts';
import { Dialog } from '../shared/Dialog';
import { Menu } from '../shared/Menu';
import { useEdit, useRig } from '../shell/useRig';
import { ChangeScene } from './ChangeScene';
import { KEYED, useRecall } from './useRecall';
import { useStanding } from './useValues';
import styles from './SceneStrip.module.css';

/** The scenes of the rig: a click or a number key recalls one; on the Bench they are taken, changed and looked at first. */
export function SceneStrip() {
  const { document: rig, stage } = useRig();
  const [changed, change] = useState<RigScene | null>(null);
  const [taking, setTaking] = useState(false);
  const last = useLastScene();
  const recall = useRecall(rig.scenes);
  return (
    <nav className={styles.scenes} aria-label="Scenes">
      {rig.scenes.map((scene, i) => (
        <span key={scene.id} className={styles.scene} data-last={scene.id === last}>
          <button type="button" onClick={() => recall(scene.id)} aria-current={scene.id === last ? true : undefined} aria-keyshortcuts={i < KEYED ? String(i + 1) : undefined}>
            {scene.name}
            {i < KEYED && <kbd>{i + 1}</kbd>}
          </button>
          {!stage && (
            <Menu items={[{ key: 'look', label: 'Look at it, change it', onClick: () => change(scene) }]}>
              <button type="button" className={styles.sceneMore} aria-label={`More for the scene ${scene.name}`}>
                ⋯
              </button>
            </Menu>
          )}
        </span>
      ))}
      {!stage && <Button onClick={() => setTaking(true)}>Take a scene</Button>}
      {taking && <TakeScene onClose={() => setTaking(false)} />}
      {changed && <ChangeScene scene={changed} onClose={() => change(null)} onRecall={() => recall(changed.id)} />}
    </nav>
  );
}

function TakeScene({ onClose }: { onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const standing = useStanding();
  const [name, setName] = useState('');
  const [asking, setAsking] = useState(false);
  const take = async () => {
    if (name.trim() === '' || asking) return;
    setAsking(true);
    const now = await standing();
    setAsking(false);
    if (!now) return;
    edit({ kind: 'change', changes: [takeScene(rig, name.trim(), now).change] });
    onClose();
  };
  return (
    <Dialog asksForText title="Take a scene" okText="Take it" okButtonProps={{ disabled: name.trim() === '', loading: asking }} onOk={() => void take()} onCancel={onClose}>
      <p>It holds which mappings are on and where every control of the surfaces stands that was ever moved; ⋯ beside it chooses which.</p>
      <Input aria-label="Name of the scene" maxLength={80} placeholder="Open water" value={name} onChange={({ target }) => setName(target.value)} />
    </Dialog>
  );
}
