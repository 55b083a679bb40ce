import { gunzipSync, gzipSync } from 'node:zlib';
import type { Recording } from '../../protocol/recording';
import { RecordingRow } from './models';

export interface RecordingSummary {
  id: string;
  name: string;
  madeAtMs: number;
}

/** Recorded signals in SQLite. */
export class RecordingRepository {
  async list(): Promise<RecordingSummary[]> {
    const rows = await RecordingRow.findAll({ attributes: ['id', 'name', 'madeAtMs'], order: [['madeAtMs', 'DESC']] });
    return rows.map(({ id, name, madeAtMs }) => ({ id, name, madeAtMs }));
  }

  async find(id: string): Promise<Recording | null> {
    const row = await RecordingRow.findByPk(id);
    return row && (JSON.parse(gunzipSync(row.content).toString('utf8')) as Recording);
  }

  async create(recording: Recording, madeAtMs: number): Promise<void> {
    const { id, name } = recording;
    await RecordingRow.create({ id, name, madeAtMs, content: gzipSync(JSON.stringify(recording)) });
  }
}
