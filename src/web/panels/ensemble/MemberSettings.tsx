import { BEGINS, type RigMember } from '../../../core/ensemble/parts';
import { MEMBERS } from '../../../core/ensemble/kinds';
import type { Change, Fields } from '../../../core/rig/edit';
import { firstTaking } from '../../../core/rig/outputs';
import { remove } from '../../../core/rig/remove';
import { layoutInShort } from '../../../core/voices/layoutWords';
import { freshVoiceMapping } from '../../../core/voices/freshVoiceMapping';
import { moveToOutput } from '../../../core/ensemble/moveToOutput';
import { Aside } from '../shared/Aside';
import { EditButton } from '../shared/edit';
import { Field } from '../shared/Field';
import { NameField } from '../shared/NameField';
import { NumberBox } from '../shared/NumberBox';
import { Removal } from '../shared/Removal';
import { useEdit, useRig } from '../shell/useRig';
import { Choice } from './choices';
import { PartFields } from './PartFields';
import styles from './ensemble.module.css';
import shaping from '../mappings/shaping.module.css';

const WHEN: Record<RigMember['begins'], string> = { now: 'at once', beat: 'on the beat', bar: 'on the bar' };

/** Everything that can be set of one member; each change is heard at once. */
export function MemberSettings({ member, onClose }: { member: RigMember; onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const set = (change: Fields<Omit<RigMember, 'id'>>) => edit({ kind: 'setMember', member: member.id, set: change });
  const ways = rig.voiceMappings.filter(({ stream }) => stream === member.id);
  const goes = () => {
    const output = firstTaking(rig, 'midi') ?? rig.outputs[0];
    if (output) edit({ kind: 'change', changes: [freshVoiceMapping(rig, member, output.id, false).change] });
  };
  const isStepping = MEMBERS[member.part.kind].steps !== undefined;
  return (
    <Aside title={MEMBERS[member.part.kind].name} onClose={onClose}>
      <NameField className={shaping.name} label="Name of the member" name={member.name} onChange={(name) => set({ name })} />
      <p className={styles.said}>{MEMBERS[member.part.kind].about}</p>
      <PartFields member={member} rig={rig} onChange={(part) => set({ part })} />
      <h3>In time</h3>
      <Choice label="Begins and changes" value={member.begins} options={BEGINS.map((value) => ({ value, label: WHEN[value] }))} onChange={(begins) => set({ begins })} />
      {isStepping && (
        <Field label="Swing (%)">
          <NumberBox label="Swing in percent: the share of the first of two steps" min={50} max={80} value={Math.round(member.swing * 100)} onChange={(percent) => set({ swing: percent === 67 ? 2 / 3 : percent / 100 })} />
        </Field>
      )}
      {isStepping && (
        <Field label="Feel (ms)">
          <NumberBox label="Feel in ms: later, or with less than 0 sooner" min={-100} max={100} value={member.feelMs} onChange={(feelMs) => set({ feelMs })} />
        </Field>
      )}
      <h3>Goes to</h3>
      {ways.map((way) => (
        <div key={way.id} className={styles.way}>
          <Choice label="Output" value={way.output} options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={(output) => edit({ kind: 'change', changes: [moveToOutput(rig, way, output)] })} />
          {'channel' in way.layout ? (
            <Field label="Channel">
              <NumberBox label="Channel" min={1} max={16} whole value={way.layout.channel} onChange={(channel) => edit({ kind: 'setVoiceMapping', voiceMapping: way.id, set: { layout: { ...way.layout, channel } as typeof way.layout } })} />
            </Field>
          ) : (
            <p className={styles.said}>{layoutInShort(way.layout)}</p>
          )}
        </div>
      ))}
      <p className={styles.said}>
        {ways.length === 0 ? 'It goes nowhere, and is heard by other members alone. ' : 'Its layout, velocities and pull are those of its voice mapping, on the Mappings screen. '}
        <EditButton size="small" disabled={rig.outputs.length === 0} onClick={goes}>
          {ways.length === 0 ? 'Let it be heard' : 'Send it elsewhere too'}
        </EditButton>
      </p>
      <Removal name={member.name} changes={() => remove(rig, [{ kind: 'stream', id: member.id }])} goesWith={whoListens} onRemoved={onClose} />
    </Aside>
  );
}

function whoListens(changes: readonly Change[]): string {
  const others = changes.filter(({ list, to }) => list === 'members' && to === null).length - 1;
  return others === 0 ? 'No other member listens to it.' : `${others} ${others === 1 ? 'member that listens to it goes' : 'members that listen to it go'} with it.`;
}
