import type { Sequelize, Transaction } from 'sequelize';
import type { RigDocument } from '../../core/rig/document';
import type { RigEdit } from '../../core/rig/edit';
import { RevisionRow, RigRow, SettingRow, SignalValueRow } from './models';

export interface StoredRig {
  id: string;
  document: RigDocument;
  /** Counts the edits, 0 for a rig that just came in. */
  revision: number;
  savedAtMs: number;
}

/** Rigs, their history and their last values in SQLite. */
export class RigRepository {
  constructor(private readonly sequelize: Sequelize) {}

  async count(): Promise<number> {
    return RigRow.count();
  }

  async find(id: string): Promise<StoredRig | null> {
    const row = await RigRow.findByPk(id);
    return row && { id, document: JSON.parse(row.document) as RigDocument, revision: row.revision, savedAtMs: row.savedAtMs };
  }

  async create({ id, document, revision, savedAtMs }: StoredRig): Promise<void> {
    await RigRow.create({ id, name: document.name, document: JSON.stringify(document), revision, savedAtMs });
  }

  /** Stores the rig as an edit left it, and the edit in its history; both or neither. */
  async saveEdit(rig: StoredRig, edit: RigEdit, inverse: RigEdit): Promise<void> {
    await this.sequelize.transaction(async (transaction: Transaction) => {
      const { id, document, revision, savedAtMs } = rig;
      await RigRow.update(
        { name: document.name, document: JSON.stringify(document), revision, savedAtMs },
        { where: { id }, transaction },
      );
      await RevisionRow.create(
        { rigId: id, number: revision, madeAtMs: savedAtMs, edit: JSON.stringify(edit), inverse: JSON.stringify(inverse) },
        { transaction },
      );
    });
  }

  async values(rigId: string): Promise<Record<string, number>> {
    const rows = await SignalValueRow.findAll({ where: { rigId } });
    return Object.fromEntries(rows.map(({ signalId, value }) => [signalId, value]));
  }

  async saveValues(rigId: string, values: ReadonlyMap<string, number>): Promise<void> {
    const rows = [...values].map(([signalId, value]) => ({ rigId, signalId, value }));
    await SignalValueRow.bulkCreate(rows, { updateOnDuplicate: ['value'] });
  }

  async setting(key: string): Promise<string | null> {
    return (await SettingRow.findByPk(key))?.value ?? null;
  }

  async saveSetting(key: string, value: string): Promise<void> {
    await SettingRow.upsert({ key, value });
  }
}
