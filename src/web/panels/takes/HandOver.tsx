import { Select } from 'antd';
import { useState, type DragEvent } from 'react';
import type { TakeDetail, TakeVersion } from '../../../protocol/takes';
import { Aside } from '../shared/Aside';
import { Labelled } from '../shared/Field';
import { fileUrl } from './fetchTakes';
import styles from './takes.module.css';

/** Which files a version becomes. */
const FILES = [
  { as: 'midi', ending: '.mid', name: 'MIDI file, a track each', about: 'Standard MIDI File type 1: a track for each mapping, tempo, marks, and what each receiver should be set to at the beginning.', type: 'audio/midi' },
  { as: 'midi0', ending: '.mid', name: 'MIDI file, one track', about: 'Standard MIDI File type 0.', type: 'audio/midi' },
  { as: 'csv', ending: '.csv', name: 'Signals as a table', about: 'Time, signal, value: the format that Inputs plays.', type: 'text/csv' },
  { as: 'jsonl', ending: '.jsonl', name: 'Signals as JSON lines', about: 'The same, a line each.', type: 'application/x-ndjson' },
  { as: 'take', ending: '.json', name: 'The whole take', about: 'All gestures with their rig: another Pumice takes it in.', type: 'application/json' },
] as const;

/** What a system, or the words for dragging a file, does not take in the name of one. */
const NO_FILE = /[\\/:*?"<>|]/g;

/** Files of a version, to be saved or dragged into another program. */
export function HandOver({ detail, version, onClose }: { detail: TakeDetail; version: TakeVersion; onClose: () => void }) {
  const { take, rig } = detail;
  const [mapping, setMapping] = useState('');
  return (
    <Aside title={`Hand over ${take.name}`} onClose={onClose}>
      <p className={styles.remark}>Save a file, or drag its name into the other program where browser and system allow it.</p>
      <Labelled label="Of it">
        <Select aria-label="What of it" value={mapping} options={[{ value: '', label: 'everything' }, ...rig.mappings.map(({ id, name }) => ({ value: id, label: name }))]} onChange={setMapping} />
      </Labelled>
      <ul className={styles.files}>
        {FILES.map(({ as, ending, name, about, type }) => {
          const href = fileUrl(take.id, version.id, as, mapping === '' || !as.startsWith('midi') ? undefined : mapping);
          const file = `${take.name.replace(NO_FILE, '-')}${ending}`;
          return (
            <li key={as}>
              <a href={href} download={file} draggable onDragStart={(event: DragEvent) => event.dataTransfer.setData('DownloadURL', `${type}:${file}:${new URL(href, location.href).href}`)}>
                {name}
              </a>
              <small>{about}</small>
            </li>
          );
        })}
      </ul>
    </Aside>
  );
}
