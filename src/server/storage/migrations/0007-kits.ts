import { QueryTypes } from 'sequelize';
import type { Migration } from './migration';

/** What is kept of a rig is called a kit everywhere; it was a part. */
export const kits: Migration = {
  name: '0007-kits',
  async up({ context: query }) {
    const parts = await query.sequelize.query<{ id: string; content: string }>("SELECT id, content FROM library WHERE kind = 'part'", { type: QueryTypes.SELECT });
    for (const { id, content } of parts) {
      const { part, ...rest } = JSON.parse(content) as { part: unknown };
      await query.bulkUpdate('library', { kind: 'kit', content: JSON.stringify({ ...rest, kind: 'kit', kit: part }) }, { id });
    }
  },
};
