import { deflateRawSync, gunzipSync, gzipSync, inflateRawSync } from 'node:zlib';
import { Op, Transaction, type Sequelize } from 'sequelize';
import { joinPieces, splitPieces } from '../../core/takes/bytes';
import type { ShownBeyond } from '../../core/takes/shown';
import type { Mark } from '../../core/takes/take';
import { bytesOf, takeName, type TakeRecord, type TakeSummary, type TakeVersion } from '../../protocol/takes';
import { TakePieceRow, TakeRow, TakeVersionRow } from './models';

/** The pieces of an ended take are joined up to so many bytes each. */
const JOINED_BYTES = 256 * 1024;
/** A transaction that will write waits at its beginning for others that do, and not in its middle, where it could not. */
const IMMEDIATE = { type: Transaction.TYPES.IMMEDIATE };

export type TakeStart = TakeRecord & { kind: 'begins' };

/** A version with what it holds: its score, the rig that it went through as JSON (null: that of the take), what it shows beyond the beginning. */
export interface StoredVersion {
  version: TakeVersion;
  score: Buffer;
  rig: string | null;
  beyond: ShownBeyond | null;
}

const SUMMARY = ['id', 'name', 'rigId', 'rigName', 'startedAtMs', 'lengthMs', 'events', 'bytes', 'marks', 'sketch', 'state'] as const;

/** A record came before one that stands before it. */
export class OutOfOrder extends Error {}

/** Takes in SQLite: what each begins with, the pieces of its log, and its versions. */
export class TakeRepository {
  constructor(private readonly database: Sequelize) {}

  /** Writes a record down; nothing where it stands there already. Throws where one before it is missing. */
  async write(record: TakeRecord): Promise<void> {
    await this.database.transaction(IMMEDIATE, async (transaction) => {
      if (record.kind === 'begins') return this.begin(record, transaction);
      const row = await TakeRow.findByPk(record.take, { transaction, attributes: { exclude: ['beginning'] } });
      // A take that was deleted meanwhile is not taken up again.
      if (!row || record.number < row.nextRecord) return;
      if (record.number > row.nextRecord) throw new OutOfOrder(`Record ${record.number} of a take came before ${row.nextRecord}.`);
      const { startMs } = row;
      switch (record.kind) {
        case 'piece': {
          const content = packed([bytesOf(record.bytes)]);
          await TakePieceRow.create({ takeId: record.take, number: record.number, content }, { transaction });
          Object.assign(row, { events: row.events + record.events, bytes: row.bytes + content.length, lengthMs: record.lastMs - startMs });
          break;
        }
        case 'mark':
          row.marks = JSON.stringify([...marksOf(row), record.mark]);
          row.lengthMs = Math.max(row.lengthMs, record.mark.atMs);
          break;
        case 'ends':
          Object.assign(row, { state: 'whole', lengthMs: Math.max(row.lengthMs, record.lastMs - startMs) });
          break;
        default:
          record satisfies never;
      }
      row.nextRecord = record.number + 1;
      await row.save({ transaction });
    });
    if (record.kind === 'ends') await this.join(record.take);
  }

  /** Takes whose recorder is gone: they end where they are. */
  async cutOthers(recording: string | null): Promise<void> {
    const where = { state: 'recording' as const, ...(recording === null ? {} : { id: { [Op.ne]: recording } }) };
    for (const { id } of await TakeRow.findAll({ where, attributes: ['id'] })) {
      await TakeRow.update({ state: 'cut' }, { where: { id } });
      await this.join(id);
    }
  }

  async list(): Promise<TakeSummary[]> {
    return (await TakeRow.findAll({ attributes: [...SUMMARY], order: [['number', 'DESC']] })).map(summaryOf);
  }

  async find(id: string): Promise<TakeSummary | null> {
    const row = await TakeRow.findByPk(id, { attributes: [...SUMMARY] });
    return row && summaryOf(row);
  }

  /** What a take begins with. */
  async beginning(id: string): Promise<TakeStart | null> {
    const row = await TakeRow.findByPk(id, { attributes: ['beginning'] });
    return row && (JSON.parse(gunzipSync(row.beginning).toString('utf8')) as TakeStart);
  }

  /** The pieces of its log in their order, some at a time. */
  async *pieces(id: string): AsyncGenerator<Uint8Array[]> {
    for (let after = -1; ; ) {
      const rows = await TakePieceRow.findAll({ where: { takeId: id, number: { [Op.gt]: after } }, order: [['number', 'ASC']], limit: 64 });
      if (rows.length === 0) return;
      after = rows.at(-1)!.number;
      yield rows.flatMap(({ content }) => unpacked(content));
    }
  }

  /** A take that was not recorded here: its log in pieces, and its versions with their scores. */
  async create(start: TakeStart, { lengthMs, events, marks, name, pieces, versions }: { lengthMs: number; events: number; marks: Mark[]; name: string; pieces: Uint8Array[]; versions: readonly StoredVersion[] }): Promise<TakeSummary> {
    const id = start.take;
    // Packed before: an edit that wants to be written meanwhile waits no longer than for the rows.
    const rows = inGroups(pieces).map((group, i) => ({ takeId: id, number: i + 1, content: packed(group) }));
    const bytes = rows.reduce((sum, { content }) => sum + content.length, 0);
    await this.database.transaction(IMMEDIATE, async (transaction) => {
      await this.begin(start, transaction);
      await TakePieceRow.bulkCreate(rows, { transaction });
      await TakeRow.update({ name, lengthMs, events, bytes, marks: JSON.stringify(marks), state: 'whole', nextRecord: pieces.length + 2 }, { where: { id }, transaction });
      for (const version of versions) await this.addVersion(id, version, transaction);
    });
    return (await this.find(id))!;
  }

  async set(id: string, set: { name?: string; marks?: Mark[]; sketch?: TakeSummary['sketch'] }): Promise<void> {
    await TakeRow.update({ ...(set.name !== undefined && { name: set.name }), ...(set.marks && { marks: JSON.stringify(set.marks) }), ...(set.sketch && { sketch: JSON.stringify(set.sketch) }) }, { where: { id } });
  }

  async remove(id: string): Promise<void> {
    await this.database.transaction(IMMEDIATE, async (transaction) => {
      for (const rows of [TakePieceRow, TakeVersionRow]) await (rows as typeof TakePieceRow).destroy({ where: { takeId: id }, transaction });
      await TakeRow.destroy({ where: { id }, transaction });
    });
  }

  async versions(takeId: string): Promise<TakeVersion[]> {
    const rows = await TakeVersionRow.findAll({ where: { takeId }, attributes: ['id', 'name', 'madeAtMs', 'messages', 'recipe', 'leftOut'], order: [['madeAtMs', 'ASC']] });
    return rows.map(({ id, name, madeAtMs, messages, recipe, leftOut }) => ({ id, name, madeAtMs, messages, recipe: JSON.parse(recipe) as TakeVersion['recipe'], leftOut: JSON.parse(leftOut) as TakeVersion['leftOut'] }));
  }

  /** The pieces of a version's score. */
  async score(takeId: string, id: string): Promise<Buffer | null> {
    return (await TakeVersionRow.findOne({ where: { takeId, id }, attributes: ['score'] }))?.score ?? null;
  }

  /** The rig that a version went through, as JSON; null where that is the take's own. */
  async versionRig(takeId: string, id: string): Promise<string | null> {
    return (await TakeVersionRow.findOne({ where: { takeId, id }, attributes: ['rig'] }))?.rig ?? null;
  }

  /** What the versions of a take show beyond the rig that it began with. */
  async beyond(takeId: string): Promise<ShownBeyond[]> {
    const rows = await TakeVersionRow.findAll({ where: { takeId, beyond: { [Op.ne]: null } }, attributes: ['beyond'], order: [['madeAtMs', 'ASC']] });
    return rows.map(({ beyond }) => JSON.parse(beyond!) as ShownBeyond);
  }

  async addVersion(takeId: string, { version, score, rig, beyond }: StoredVersion, transaction: Transaction | null = null): Promise<void> {
    const { id, name, madeAtMs, messages, recipe, leftOut } = version;
    await TakeVersionRow.create({ id, takeId, name, madeAtMs, messages, recipe: JSON.stringify(recipe), leftOut: JSON.stringify(leftOut), score, rig, beyond: beyond && JSON.stringify(beyond) }, { transaction });
  }

  async setVersion(takeId: string, id: string, set: { name?: string; recipe?: TakeVersion['recipe'] }): Promise<void> {
    await TakeVersionRow.update({ ...(set.name !== undefined && { name: set.name }), ...(set.recipe && { recipe: JSON.stringify(set.recipe) }) }, { where: { takeId, id } });
  }

  async removeVersion(takeId: string, id: string): Promise<void> {
    await TakeVersionRow.destroy({ where: { takeId, id } });
  }

  private async begin(record: TakeStart, transaction: Transaction): Promise<void> {
    if (await TakeRow.count({ where: { id: record.take }, transaction })) return;
    const number = ((await TakeRow.max<number, TakeRow>('number', { transaction })) ?? 0) + 1;
    const beginning = gzipSync(JSON.stringify(record));
    const { take: id, startMs, startedAtMs, rigId, rigName } = record;
    await TakeRow.create({ id, number, name: await this.freeName(transaction), startMs, startedAtMs, lengthMs: 0, events: 0, bytes: beginning.length, state: 'recording', nextRecord: 1, marks: '[]', rigId, rigName, beginning }, { transaction });
  }

  /** `Take 1`, `Take 2` and so on, whatever others are called. */
  private async freeName(transaction: Transaction): Promise<string> {
    const rows = await TakeRow.findAll({ where: { name: { [Op.like]: takeName('%') } }, attributes: ['name'], transaction });
    const numbers = rows.map(({ name }) => Number(name.slice(takeName('').length))).filter(Number.isInteger);
    return takeName(1 + Math.max(0, ...numbers));
  }

  /** Pieces of half a second are many small rows; joined they take less room and are quicker to read. */
  private async join(id: string): Promise<void> {
    const rows = await TakePieceRow.findAll({ where: { takeId: id }, order: [['number', 'ASC']] });
    // Their numbers only put them in order: what comes after has a later one.
    const joined = inGroups(rows.flatMap(({ content }) => unpacked(content))).map((group, i) => ({ takeId: id, number: rows[i]!.number, content: packed(group) }));
    if (joined.length === rows.length) return;
    await this.database.transaction(IMMEDIATE, async (transaction) => {
      await TakePieceRow.destroy({ where: { takeId: id, number: rows.map(({ number }) => number) }, transaction });
      await TakePieceRow.bulkCreate(joined, { transaction });
      const row = await TakeRow.findByPk(id, { transaction, attributes: ['id', 'beginning'] });
      await TakeRow.update({ bytes: row!.beginning.length + joined.reduce((sum, { content }) => sum + content.length, 0) }, { where: { id }, transaction });
    });
  }
}

/** Pieces in groups that are stored together. */
function inGroups(pieces: readonly Uint8Array[]): Uint8Array[][] {
  const groups: Uint8Array[][] = [];
  let bytes = Infinity;
  for (const piece of pieces) {
    if (bytes + piece.length > JOINED_BYTES) {
      groups.push([]);
      bytes = 0;
    }
    groups.at(-1)!.push(piece);
    bytes += piece.length;
  }
  return groups;
}

function summaryOf(row: TakeRow): TakeSummary {
  const { id, name, rigId, rigName, startedAtMs, lengthMs, events, bytes, state } = row;
  return { id, name, rigId, rigName, startedAtMs, lengthMs, events, bytes, state, marks: marksOf(row), sketch: row.sketch === null ? null : (JSON.parse(row.sketch) as TakeSummary['sketch']) };
}

const marksOf = ({ marks }: TakeRow) => JSON.parse(marks) as Mark[];

/** Pieces with their lengths before them, compressed. */
function packed(pieces: readonly Uint8Array[]): Buffer {
  return deflateRawSync(joinPieces(pieces), { level: 6 });
}

function unpacked(content: Buffer): Uint8Array[] {
  return splitPieces(new Uint8Array(inflateRawSync(content)));
}
