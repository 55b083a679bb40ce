import { gunzipSync, gzipSync } from 'node:zlib';
import type { Recording } from '../../protocol/recording';
import { RecordingRow } from './models';

/** Recorded signals in SQLite. */
export class RecordingRepository {
  async find(id: string): Promise<Recording | null> {
    const row = await RecordingRow.findByPk(id);
    return row && (JSON.parse(gunzipSync(row.content).toString('utf8')) as Recording);
  }

  async create(recording: Recording, madeAtMs: number): Promise<void> {
    const { id, name } = recording;
    await RecordingRow.create({ id, name, madeAtMs, content: gzipSync(JSON.stringify(recording)) });
  }
}
