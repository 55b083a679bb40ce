import type { LibraryContent, LibraryEntry } from '../../protocol/library';
import { LibraryRow } from './models';

/** What is kept apart from any rig, in SQLite. */
export class LibraryRepository {
  async list(): Promise<LibraryEntry[]> {
    const rows = await LibraryRow.findAll({ order: [['name', 'ASC']] });
    return rows.map(entryOf);
  }

  async find(id: string): Promise<LibraryEntry | null> {
    const row = await LibraryRow.findByPk(id);
    return row && entryOf(row);
  }

  async create({ id, name, savedAtMs, ...content }: LibraryEntry): Promise<void> {
    await LibraryRow.create({ id, name, savedAtMs, content: JSON.stringify(content) });
  }

  async remove(id: string): Promise<void> {
    await LibraryRow.destroy({ where: { id } });
  }
}

function entryOf({ id, name, savedAtMs, content }: LibraryRow): LibraryEntry {
  return { id, name, savedAtMs, ...(JSON.parse(content) as LibraryContent) };
}
