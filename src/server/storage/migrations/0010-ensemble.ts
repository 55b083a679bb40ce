import { QueryTypes } from 'sequelize';
import { withEnsemble } from '../../../protocol/rig/upgrades/ensemble';
import type { Migration } from './migration';

/** Rigs and kits of version 2 have an ensemble from here on. Nothing else of them changes, so that their steps can still be taken back. */
export const ensemble: Migration = {
  name: '0010-ensemble',
  async up({ context: query }) {
    const { sequelize } = query;
    const rigs = await sequelize.query<{ id: string; document: string }>('SELECT id, document FROM rigs', { type: QueryTypes.SELECT });
    for (const { id, document } of rigs) {
      const upgraded = toVersion3(JSON.parse(document) as Record<string, unknown>);
      if (upgraded) await query.bulkUpdate('rigs', { document: JSON.stringify(upgraded) }, { id });
    }
    const kits = await sequelize.query<{ id: string; content: string }>("SELECT id, content FROM library WHERE kind = 'kit'", { type: QueryTypes.SELECT });
    for (const { id, content } of kits) {
      const { kit, ...rest } = JSON.parse(content) as { kit: Record<string, unknown> };
      const upgraded = toVersion3(kit);
      if (upgraded) await query.bulkUpdate('library', { content: JSON.stringify({ ...rest, kit: upgraded }) }, { id });
    }
  },
};

function toVersion3(document: Record<string, unknown>): Record<string, unknown> | null {
  return document.version === 2 ? { ...withEnsemble(document), version: 3 } : null;
}
