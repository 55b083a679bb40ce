import type { Sequelize, Transaction } from 'sequelize';
import type { RigDocument } from '../../core/rig/document';
import type { RigEdit } from '../../core/rig/edit';
import type { HistoryStep } from '../../core/rig/history';
import { mendStored } from '../../core/rig/mendStored';
import { RevisionRow, RigRow, SettingRow, SignalValueRow } from './models';

export interface StoredRig {
  id: string;
  document: RigDocument;
  /** Counts the edits, 0 for a rig that just came in. */
  revision: number;
  savedAtMs: number;
}

export interface EditRecord {
  edit: RigEdit;
  inverse: RigEdit;
  undoes?: number;
  redoes?: number;
  replaces?: number;
  byItself?: boolean;
}

export interface HistoryEntry extends HistoryStep {
  madeAtMs: number;
  edit: RigEdit;
}

export interface RigSummary {
  id: string;
  name: string;
  revision: number;
  savedAtMs: number;
}

/** Rigs, their history and their last values in SQLite. */
export class RigRepository {
  private settingsWritten: Promise<unknown> = Promise.resolve();

  constructor(private readonly sequelize: Sequelize) {}

  async count(): Promise<number> {
    return RigRow.count();
  }

  async find(id: string): Promise<StoredRig | null> {
    const row = await RigRow.findByPk(id);
    return row && { id, document: mendStored(JSON.parse(row.document) as RigDocument), revision: row.revision, savedAtMs: row.savedAtMs };
  }

  async create({ id, document, revision, savedAtMs }: StoredRig): Promise<void> {
    await RigRow.create({ id, name: document.name, document: JSON.stringify(document), revision, savedAtMs });
  }

  /**
   * Stores the rig as an edit left it, and the edit in its history; both or neither. With `replaces` the revision of that
   * number goes: the two are one step, and what takes both back is the former inverse, which is given here.
   */
  async saveEdit(rig: StoredRig, { edit, inverse, undoes, redoes, replaces, byItself = false }: EditRecord): Promise<void> {
    await this.sequelize.transaction(async (transaction: Transaction) => {
      const { id, document, revision, savedAtMs } = rig;
      await RigRow.update(
        { name: document.name, document: JSON.stringify(document), revision, savedAtMs },
        { where: { id }, transaction },
      );
      if (replaces !== undefined) await RevisionRow.destroy({ where: { rigId: id, number: replaces }, transaction });
      await RevisionRow.create(
        { rigId: id, number: revision, madeAtMs: savedAtMs, edit: JSON.stringify(edit), inverse: JSON.stringify(inverse), undoes: undoes ?? null, redoes: redoes ?? null, byItself },
        { transaction },
      );
    });
  }

  /** The latest edits of a rig, oldest first. */
  async history(rigId: string, most: number): Promise<HistoryEntry[]> {
    const rows = await RevisionRow.findAll({ where: { rigId }, order: [['number', 'DESC']], limit: most });
    return rows.reverse().map(({ number, madeAtMs, edit, undoes, redoes, byItself }) => ({ number, madeAtMs, edit: JSON.parse(edit) as RigEdit, undoes, redoes, byItself }));
  }

  async revision(rigId: string, number: number): Promise<{ edit: RigEdit; inverse: RigEdit } | null> {
    const row = await RevisionRow.findOne({ where: { rigId, number } });
    return row && { edit: JSON.parse(row.edit) as RigEdit, inverse: JSON.parse(row.inverse) as RigEdit };
  }

  async list(): Promise<RigSummary[]> {
    const rows = await RigRow.findAll({ attributes: ['id', 'name', 'revision', 'savedAtMs'], order: [['savedAtMs', 'DESC']] });
    return rows.map(({ id, name, revision, savedAtMs }) => ({ id, name, revision, savedAtMs }));
  }

  /** Takes a rig out with its history and values. */
  async remove(id: string): Promise<void> {
    await RigRow.destroy({ where: { id } });
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

  /** One after another: of two that are asked for at once the driver might write the earlier last. */
  saveSetting(key: string, value: string): Promise<void> {
    const written = this.settingsWritten.then(async () => void (await SettingRow.upsert({ key, value })));
    this.settingsWritten = written.catch(() => undefined);
    return written;
  }
}
