import { App, Button, Dropdown, Input, InputNumber, Modal } from 'antd';
import { useEffect, useState } from 'react';
import type { RigScene } from '../../../core/rig/document';
import { sceneDifference, takeScene } from '../../../core/rig/scene';
import { recallScene } from '../../live/fetchRig';
import { isTyping } from '../../live/isTyping';
import { useLive } from '../../live/LiveProvider';
import { useEdit, useRig } from '../shell/useRig';

/** The number keys recall the first nine scenes. */
const KEYED = 9;

/** The scenes of the rig: a click or a number key recalls one; on the Bench they are taken, changed and looked at first. */
export function SceneStrip() {
  const { document: rig, stage } = useRig();
  const { message } = App.useApp();
  const [changed, change] = useState<RigScene | null>(null);
  const [taking, setTaking] = useState(false);
  const recall = (scene: RigScene) => void recallScene(scene.id).catch((error: Error) => message.error(error.message));
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const scene = /^[1-9]$/.test(event.key) ? rig.scenes[Number(event.key) - 1] : undefined;
      if (scene) recall(scene);
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  });
  return (
    <nav className="scenes" aria-label="Scenes">
      {rig.scenes.map((scene, i) => (
        <span key={scene.id} className="scene">
          <button type="button" onClick={() => recall(scene)} aria-keyshortcuts={i < KEYED ? String(i + 1) : undefined}>
            {scene.name}
            {i < KEYED && <kbd>{i + 1}</kbd>}
          </button>
          {!stage && (
            <Dropdown trigger={['click']} menu={{ items: [{ key: 'look', label: 'Look at it, change it', onClick: () => change(scene) }] }}>
              <button type="button" className="scene-more" aria-label={`More for the scene ${scene.name}`}>
                ⋯
              </button>
            </Dropdown>
          )}
        </span>
      ))}
      {!stage && <Button onClick={() => setTaking(true)}>Take a scene</Button>}
      {taking && <TakeScene onClose={() => setTaking(false)} />}
      {changed && <ChangeScene scene={changed} onClose={() => change(null)} onRecall={() => recall(changed)} />}
    </nav>
  );
}

/** Where the controls stand now, as far as this page knows. */
function useValues(): () => Record<string, number> {
  const live = useLive();
  const { document: rig } = useRig();
  useEffect(() => {
    const removes = rig.signals.map(({ id }) => live.onSignal(id, () => undefined));
    return () => removes.forEach((remove) => remove());
  }, [live, rig]);
  return () => Object.fromEntries(rig.signals.flatMap(({ id }) => (live.signalValue(id) === undefined ? [] : [[id, live.signalValue(id)!]])));
}

function TakeScene({ onClose }: { onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const values = useValues();
  const [name, setName] = useState('');
  const take = () => {
    if (name.trim() === '') return;
    edit({ kind: 'change', changes: [takeScene(rig, name.trim(), values()).change] });
    onClose();
  };
  return (
    <Modal open title="Take a scene" okText="Take it" okButtonProps={{ disabled: name.trim() === '' }} onOk={take} onCancel={onClose}>
      <p>It holds which mappings are on and where every control of the surfaces stands now.</p>
      <Input autoFocus aria-label="Name of the scene" maxLength={80} placeholder="Open water" value={name} onChange={({ target }) => setName(target.value)} onPressEnter={take} />
    </Modal>
  );
}

function ChangeScene({ scene, onClose, onRecall }: { scene: RigScene; onClose: () => void; onRecall: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const values = useValues();
  const [name, setName] = useState(scene.name);
  const [glideMs, setGlideMs] = useState(scene.glideMs);
  const [difference, setDifference] = useState<ReturnType<typeof sceneDifference> | null>(null);
  useEffect(() => {
    // Once what the controls show has arrived.
    const timer = setTimeout(() => setDifference(sceneDifference(rig, scene, values())), 300);
    return () => clearTimeout(timer);
    // The difference of the moment at which it is looked at.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [scene]);
  const put = (to: RigScene | null) => {
    edit({ kind: 'change', changes: [{ list: 'scenes', id: scene.id, to }] });
    onClose();
  };
  return (
    <Modal
      open
      title={`Scene ${scene.name}`}
      onCancel={onClose}
      footer={[
        <Button key="delete" danger onClick={() => put(null)}>
          Delete
        </Button>,
        <Button
          key="recall"
          onClick={() => {
            onRecall();
            onClose();
          }}
        >
          Recall
        </Button>,
        <Button key="keep" type="primary" disabled={name.trim() === ''} onClick={() => put({ ...scene, name: name.trim(), glideMs })}>
          Keep
        </Button>,
      ]}
    >
      <div className="scene-form">
        <label className="field">
          <span>Name</span>
          <Input maxLength={80} value={name} onChange={({ target }) => setName(target.value)} />
        </label>
        <label className="field">
          <span>Glide (ms)</span>
          <InputNumber min={0} max={3_600_000} step={100} value={glideMs} onChange={(value) => value !== null && setGlideMs(value)} />
        </label>
        <h3>Recalled now it would</h3>
        <ul aria-label="What would change">{difference && wordsOf(difference).map((line) => <li key={line}>{line}</li>)}</ul>
      </div>
    </Modal>
  );
}

function wordsOf({ on, off, moved, pages, messages }: ReturnType<typeof sceneDifference>): string[] {
  const lines = [
    on.length > 0 && `switch on ${on.join(', ')}`,
    off.length > 0 && `switch off ${off.join(', ')}`,
    moved.length > 0 && `move ${moved.length} ${moved.length === 1 ? 'control' : 'controls'}`,
    pages > 0 && `turn ${pages} ${pages === 1 ? 'page' : 'pages'}`,
    messages > 0 && `send ${messages} ${messages === 1 ? 'message' : 'messages'}`,
  ].filter((line) => typeof line === 'string');
  return lines.length === 0 ? ['change nothing'] : lines;
}
