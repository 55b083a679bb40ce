import { Button, Input, Select } from 'antd';
import { useEffect, useState } from 'react';
import type { RigDocument, RigScene } from '../../../core/rig/document';
import type { Change } from '../../../core/rig/edit';
import { findSignal } from '../../../core/rig/find';
import { mergeMade } from '../../../core/rig/mergeMade';
import { remove } from '../../../core/rig/remove';
import { controlValues, sceneDifference, type SceneDifference } from '../../../core/rig/scene';
import { SCENE_TRANSPORTS, type SceneTransport } from '../../../core/rig/sceneTransport';
import { counted } from '../../../core/units/counted';
import { Dialog } from '../shared/Dialog';
import { EditButton } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { useEdit, useRig } from '../shell/useRig';
import { SceneMessages } from './SceneMessages';
import { useStanding, useValues } from './useValues';
import styles from './ChangeScene.module.css';
import shared from '../shared/shared.module.css';

const LONGEST_GLIDE_MS = 3_600_000;
const BY_HAND = '';
/** What a scene does to the transport, as a choice and in a sentence. */
const TRANSPORT_WORDS: Record<SceneTransport, { choice: string; does: string }> = {
  start: { choice: 'starts', does: 'start the transport' },
  stop: { choice: 'stops', does: 'stop the transport' },
  continue: { choice: 'goes on', does: 'let the transport go on' },
  startStop: { choice: 'starts, or stops where it runs', does: 'start the transport, or stop it where it runs' },
  tap: { choice: 'is tapped: its tempo', does: 'tap the tempo' },
};

interface ChangeSceneProps {
  scene: RigScene;
  onClose: () => void;
  onRecall: () => void;
}

/** Everything that a scene holds, and what recalling it now would change. Nothing is changed before Keep. */
export function ChangeScene({ scene: opened, onClose, onRecall }: ChangeSceneProps) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const values = useValues();
  const standing = useStanding();
  const [scene, setScene] = useState(opened);
  const set = (change: Partial<RigScene>) => setScene({ ...scene, ...change });
  const [difference, setDifference] = useState<SceneDifference | null>(null);
  useEffect(() => {
    let isLate = false;
    void standing().then((now) => now && !isLate && setDifference(sceneDifference(rig, scene, now)));
    return () => {
      isLate = true;
    };
    // The difference of the moment at which it is looked at.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [scene]);
  const isChanged = JSON.stringify(scene) !== JSON.stringify(opened);
  const put = (changes: Change[]) => {
    edit({ kind: 'change', changes });
    onClose();
  };
  const keep = () => put([{ list: 'scenes', id: opened.id, to: mergeMade(rig.scenes.find(({ id }) => id === opened.id) ?? opened, opened, { ...scene, name: scene.name.trim() }) }]);
  const switched = (to: boolean) => chosen({ ...scene.mappings, ...scene.voiceMappings }, to);
  const setSwitched = (to: boolean, ids: readonly string[]) => {
    const isVoices = new Set(rig.voiceMappings.map(({ id }) => id));
    set({
      mappings: choosing(scene.mappings, to, ids.filter((id) => !isVoices.has(id))),
      voiceMappings: choosing(scene.voiceMappings ?? {}, to, ids.filter((id) => isVoices.has(id))),
    });
  };
  return (
    <Dialog
      width={860}
      // What is done with it stays in view, however much it holds.
      style={{ top: 32 }}
      styles={{ body: { maxHeight: 'calc(100vh - 190px)', overflowY: 'auto' } }}
      title={`Scene ${opened.name}`}
      onCancel={onClose}
      okButtonProps={{ disabled: scene.name.trim() === '' }}
      onOk={keep}
      footer={[
        <EditButton key="delete" danger onClick={() => put(remove(rig, [{ kind: 'scene', id: opened.id }]))}>
          Delete
        </EditButton>,
        <Button
          key="recall"
          disabled={scene.name.trim() === ''}
          onClick={() => {
            if (isChanged) keep();
            else onClose();
            onRecall();
          }}
        >
          {isChanged ? 'Keep and recall' : 'Recall'}
        </Button>,
        <EditButton key="keep" type="primary" disabled={scene.name.trim() === ''} onClick={keep}>
          Keep
        </EditButton>,
      ]}
    >
      <div className={styles.sceneForm}>
        <div>
          <Field label="Name">
            <Input aria-label="Name" maxLength={80} value={scene.name} onChange={({ target }) => set({ name: target.value })} />
          </Field>
          <Field label="Glide (ms)">
            <NumberBox label="Glide (ms)" min={0} max={LONGEST_GLIDE_MS} step={100} value={scene.glideMs} onChange={(glideMs) => set({ glideMs })} />
          </Field>
          <RecalledBy rig={rig} scene={scene} onChange={setScene} />
          {([true, false] as const).map((to) => (
            <Field key={String(to)} label={to ? 'Switches on' : 'Switches off'}>
              <Select
                aria-label={to ? 'Switches on' : 'Switches off'}
                mode="multiple"
                maxTagCount={2}
                placeholder="no mapping"
                showSearch={{ optionFilterProp: 'label' }}
                value={switched(to)}
                options={[...rig.mappings, ...rig.voiceMappings].map(({ id, name }) => ({ value: id, label: name }))}
                onChange={(ids) => setSwitched(to, ids)}
              />
            </Field>
          ))}
          {rig.voiceMappings.length > 0 &&
            ([true, false] as const).map((to) => (
              <Field key={String(to)} label={to ? 'One voice alone' : 'All voices'}>
                <Select
                  aria-label={to ? 'Receivers that hear one voice alone' : 'Receivers that hear all voices together'}
                  mode="multiple"
                  maxTagCount={2}
                  placeholder="no receiver"
                  value={chosen(scene.alone ?? {}, to)}
                  options={rig.receivers.map(({ id, name }) => ({ value: id, label: name }))}
                  onChange={(ids) => set({ alone: choosing(scene.alone ?? {}, to, ids) })}
                />
              </Field>
            ))}
          {rig.members.length > 0 &&
            ([true, false] as const).map((to) => (
              <Field key={String(to)} label={to ? 'Members on' : 'Members off'}>
                <Select
                  aria-label={to ? 'Members of the ensemble that go on' : 'Members of the ensemble that go off'}
                  mode="multiple"
                  maxTagCount={2}
                  placeholder="no member"
                  value={chosen(scene.members ?? {}, to)}
                  options={rig.members.map(({ id, name }) => ({ value: id, label: name }))}
                  onChange={(ids) => set({ members: choosing(scene.members ?? {}, to, ids) })}
                />
              </Field>
            ))}
          <Field label="Transport">
            <Select
              aria-label="What the transport does"
              value={scene.transport ?? BY_HAND}
              options={[{ value: BY_HAND, label: 'stays' }, ...SCENE_TRANSPORTS.map((value) => ({ value, label: TRANSPORT_WORDS[value].choice }))]}
              onChange={(does) => {
                const next = { ...scene };
                delete next.transport;
                setScene(does === BY_HAND ? next : { ...next, transport: does as SceneTransport });
              }}
            />
          </Field>
          {rig.surfaces.map((surface) => (
            <Field key={surface.id} label={`Page of ${surface.name}`}>
              <Select
                aria-label={`Page of ${surface.name}`}
                value={scene.pages[surface.id] ?? BY_HAND}
                options={[{ value: BY_HAND, label: 'stays' }, ...surface.pages.map(({ id, name }) => ({ value: id, label: name }))]}
                onChange={(page) => set({ pages: Object.fromEntries([...Object.entries(scene.pages).filter(([id]) => id !== surface.id), ...(page === BY_HAND ? [] : [[surface.id, page]])]) as Record<string, string> })}
              />
            </Field>
          ))}
          {rig.surfaces.map(({ id: surface, name, banks = [] }) =>
            banks.length === 0 ? null : (
              <Field key={surface} label={`Bank of ${name}`}>
                <Select
                  aria-label={`Bank of ${name}`}
                  value={scene.banks?.[surface] ?? -1}
                  options={[{ value: -1, label: 'stays' }, ...banks.map((bank, i) => ({ value: i, label: bank }))]}
                  onChange={(bank) => set({ banks: Object.fromEntries([...Object.entries(scene.banks ?? {}).filter(([id]) => id !== surface), ...(bank < 0 ? [] : [[surface, bank]])]) as Record<string, number> })}
                />
              </Field>
            ),
          )}
          <Held rig={rig} scene={scene} values={values} onChange={(held) => set({ values: held })} />
        </div>
        <div>
          <SceneMessages rig={rig} messages={scene.messages} onChange={(messages) => set({ messages })} />
          <h3>Recalled now it would</h3>
          <ul aria-label="What would change">{difference && wordsOf(difference).map((line) => <li key={line}>{line}</li>)}</ul>
        </div>
      </div>
    </Dialog>
  );
}

/** What is chosen one way, of things that may be chosen either way or not at all. */
const chosen = (of: Readonly<Record<string, boolean>>, to: boolean): string[] => Object.entries(of).flatMap(([id, on]) => (on === to ? [id] : []));
const choosing = (of: Readonly<Record<string, boolean>>, to: boolean, ids: readonly string[]): Record<string, boolean> =>
  Object.fromEntries([...Object.entries(of).filter(([id, on]) => on !== to && !ids.includes(id)), ...ids.map((id): [string, boolean] => [id, to])]);

interface HeldProps {
  rig: RigDocument;
  scene: RigScene;
  values: () => Promise<Record<string, number> | null>;
  onChange: (held: Record<string, number>) => void;
}

/** The controls that the scene moves, each of one's choice; one that nobody ever touched is not offered. */
function Held({ rig, scene, values, onChange }: HeldProps) {
  const [now, setNow] = useState<Record<string, number>>({});
  useEffect(() => void values().then((all) => all && setNow(all)), [values]);
  const known = controlValues(rig, now);
  const held = Object.keys(scene.values);
  const options = [...new Set([...held, ...Object.keys(known)])].map((id) => {
    const found = findSignal(rig, id);
    return { value: id, label: found ? `${found.from} · ${found.signal.name}` : id };
  });
  const choose = (ids: readonly string[]) => onChange(Object.fromEntries(ids.map((id) => [id, scene.values[id] ?? known[id]!])));
  const takeNow = async () => {
    const all = await values();
    if (!all) return;
    const fresh = controlValues(rig, all);
    setNow(fresh);
    onChange(Object.fromEntries((held.length > 0 ? held : Object.keys(fresh)).map((id) => [id, fresh[id] ?? scene.values[id]!])));
  };
  return (
    <>
      <Field label="Moves">
        <Select aria-label="Controls that it moves" mode="multiple" maxTagCount={3} placeholder="no control" showSearch={{ optionFilterProp: 'label' }} value={held} options={options} onChange={choose} />
      </Field>
      <Field label="">
        <span className={shared.inARow}>
          <Button onClick={() => void takeNow()}>Take them as they are now</Button>
          {held.length > 0 && <Button onClick={() => onChange({})}>Leave all {held.length} out</Button>}
        </span>
      </Field>
    </>
  );
}

/** A gate or a value, of a program change say, that recalls the scene while playing. */
function RecalledBy({ rig, scene, onChange }: { rig: RigDocument; scene: RigScene; onChange: (scene: RigScene) => void }) {
  const trigger = scene.recalledBy;
  const all = [...rig.signals, ...rig.derived];
  const signal = all.find(({ id }) => id === trigger?.signal);
  const choose = (id: string) => {
    const others = { ...scene };
    delete others.recalledBy;
    const chosen = all.find((candidate) => candidate.id === id);
    if (!chosen) return onChange(others);
    onChange({ ...others, recalledBy: chosen.kind === 'gate' ? { signal: id } : { signal: id, at: chosen.range[0] } });
  };
  return (
    <>
      <Field label="Recalled by">
        <Select
          aria-label="Recalled by"
          showSearch={{ optionFilterProp: 'label' }}
          value={trigger?.signal ?? BY_HAND}
          options={[{ value: BY_HAND, label: 'click, key and OSC alone' }, ...all.map(({ id, name }) => ({ value: id, label: `${findSignal(rig, id)!.from} · ${name}` }))]}
          onChange={choose}
        />
      </Field>
      {trigger && signal?.kind === 'gate' && (
        <Field label="">
          <span>when it goes on</span>
        </Field>
      )}
      {trigger?.at !== undefined && (
        <Field label="when it is">
          <NumberBox label="Value that recalls the scene" min={-1e9} max={1e9} value={trigger.at} onChange={(at) => onChange({ ...scene, recalledBy: { signal: trigger.signal, at } })} />
        </Field>
      )}
      {!trigger && <p className={shared.hint}>A program change recalls it too: send it once with “Listen for new” on, and it stands in this list as a signal.</p>}
    </>
  );
}

function wordsOf({ on, off, alone, together, moved, pages, banks, messages, transport }: SceneDifference): string[] {
  const lines = [
    on.length > 0 && `switch on ${on.join(', ')}`,
    off.length > 0 && `switch off ${off.join(', ')}`,
    alone.length > 0 && `let ${alone.join(', ')} hear one voice alone`,
    together.length > 0 && `let ${together.join(', ')} hear all voices`,
    moved.length > 0 && `move ${counted(moved.length, 'control')}`,
    pages > 0 && `turn ${counted(pages, 'page')}`,
    banks > 0 && `turn ${counted(banks, 'bank')}`,
    transport !== null && TRANSPORT_WORDS[transport!].does,
    messages > 0 && `send ${counted(messages, 'message')}`,
  ].filter((line) => typeof line === 'string');
  return lines.length === 0 ? ['change nothing'] : lines;
}
