import type { LibraryContent, LibraryEntry, LibraryLine } from '../../protocol/library';
import { LibraryRow } from './models';

/** What is kept apart from any rig, in SQLite. */
export class LibraryRepository {
  /** By name; the content of kits, which may be large, is left where it is. */
  async list(): Promise<LibraryLine[]> {
    const shapings = (await LibraryRow.findAll({ where: { kind: 'shaping' } })).map(entryOf) as LibraryLine[];
    const kits = await LibraryRow.findAll({ where: { kind: 'kit' }, attributes: ['id', 'name', 'savedAtMs'] });
    const lines = kits.map(({ id, name, savedAtMs }): LibraryLine => ({ id, name, savedAtMs, kind: 'kit' }));
    return [...shapings, ...lines].sort((a, b) => a.name.localeCompare(b.name));
  }

  async find(id: string): Promise<LibraryEntry | null> {
    const row = await LibraryRow.findByPk(id);
    return row && entryOf(row);
  }

  async create({ id, name, savedAtMs, ...content }: LibraryEntry): Promise<void> {
    await LibraryRow.create({ id, name, kind: content.kind, savedAtMs, content: JSON.stringify(content) });
  }

  async remove(id: string): Promise<void> {
    await LibraryRow.destroy({ where: { id } });
  }
}

function entryOf({ id, name, savedAtMs, content }: LibraryRow): LibraryEntry {
  return { id, name, savedAtMs, ...(JSON.parse(content) as LibraryContent) };
}
