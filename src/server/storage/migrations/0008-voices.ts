import { QueryTypes } from 'sequelize';
import { withVoices } from '../../../protocol/rig/upgrades/voices';
import type { Migration } from './migration';

/**
 * Rigs and kits of version 1 have voices from here on. Where that made anything, the steps that led there cannot be taken back any
 * more: they speak of keys that are one stream now. The copy that was kept before still has them.
 */
export const voices: Migration = {
  name: '0008-voices',
  async up({ context: query }) {
    const { sequelize } = query;
    const rigs = await sequelize.query<{ id: string; document: string }>('SELECT id, document FROM rigs', { type: QueryTypes.SELECT });
    for (const { id, document } of rigs) {
      const upgraded = toVersion2(JSON.parse(document) as Record<string, unknown>);
      if (!upgraded) continue;
      await query.bulkUpdate('rigs', { document: JSON.stringify(upgraded) }, { id });
      if ((upgraded.streams as unknown[]).length > 0) await query.bulkDelete('revisions', { rigId: id });
    }
    const kits = await sequelize.query<{ id: string; content: string }>("SELECT id, content FROM library WHERE kind = 'kit'", { type: QueryTypes.SELECT });
    for (const { id, content } of kits) {
      const { kit, ...rest } = JSON.parse(content) as { kit: Record<string, unknown> };
      const upgraded = toVersion2(kit);
      if (upgraded) await query.bulkUpdate('library', { content: JSON.stringify({ ...rest, kit: upgraded }) }, { id });
    }
  },
};

function toVersion2(document: Record<string, unknown>): Record<string, unknown> | null {
  return document.version === 1 ? { ...withVoices(document), version: 2 } : null;
}
