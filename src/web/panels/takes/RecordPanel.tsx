import { Field } from '../shared/Field';
import { Dialog } from '../shared/Dialog';
import { EditSegmented, EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { useRecordSettings } from '../shared/useRecordSettings';
import { useRig } from '../shell/useRig';
import styles from './takes.module.css';

const NOTHING = '';

/** What begins and ends takes, and what is counted before. */
export function RecordPanel({ onClose }: { onClose: () => void }) {
  const { document: rig } = useRig();
  const { settings, change } = useRecordSettings();
  if (!settings) return null;
  const { gate, scene, transport, countIn, metronome } = settings;
  const gates = rig.signals.filter(({ kind }) => kind === 'gate');
  return (
    <Dialog title="Recording" footer={null} onCancel={onClose}>
      <p className={styles.remark}>
        <kbd>R</kbd> begins and ends a take from every screen, and so do those below. The last half minute is always kept.
      </p>
      <Field label="A gate">
        <EditSelect aria-label="Gate that records" showSearch={{ optionFilterProp: 'label' }} value={gate ?? NOTHING} options={[{ value: NOTHING, label: 'none' }, ...gates.map(({ id, name }) => ({ value: id, label: name }))]} onChange={(next) => void change({ gate: next || null })} />
      </Field>
      <Field label="A scene">
        <EditSelect aria-label="Scene that records" value={scene ?? NOTHING} options={[{ value: NOTHING, label: 'none' }, ...rig.scenes.map(({ id, name }) => ({ value: id, label: name }))]} onChange={(next) => void change({ scene: next || null })} />
      </Field>
      <Field label="Start and Stop, of MIDI inputs and of the transport">
        <EditSwitch aria-label="Start and Stop record" checked={transport} onChange={(on) => void change({ transport: on })} />
      </Field>
      <p className={styles.remark}>
        Over OSC: <code>/pumice/record 1</code> begins, <code>0</code> ends, <code>/pumice/mark</code> marks.
      </p>
      <Field label="Counted before">
        <NumberBox label="Counted before a take" value={countIn.many} min={0} max={30} onChange={(many) => void change((before) => ({ countIn: { ...before.countIn, many } }))} />
      </Field>
      <Field label="in">
        <EditSegmented aria-label="What is counted" value={countIn.of} options={['bars', 'seconds']} onChange={(of: string) => void change((before) => ({ countIn: { ...before.countIn, of: of as typeof countIn.of } }))} />
      </Field>
      <Field label="Metronome">
        <EditSwitch aria-label="Metronome" checked={metronome} onChange={(on) => void change({ metronome: on })} />
      </Field>
      <p className={styles.remark}>It clicks in the window where the sound of the stand-ins is on (Outputs): what is counted in and what is recorded, with the transport while that runs. Tempo and meter are those of the rig (Ensemble).</p>
    </Dialog>
  );
}
