import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { checkRig } from '../../protocol/rig';
import { openDatabase } from './database';
import { migrations } from './migrations';
import type { Migration } from './migrations/migration';

const contents = (at: string) =>
  readdirSync(at).map((name) => [name, createHash('sha256').update(readFileSync(join(at, name))).digest('hex')]);
const folder = () => mkdtempSync(join(tmpdir(), 'pumice-database-'));
const later: Migration = { name: '0002-later', up: async ({ context }) => void (await context.addColumn('settings', 'note', 'TEXT')) };
const failing: Migration = { name: '0002-failing', up: () => Promise.reject(new Error('out of stone')) };

describe('openDatabase', () => {
  it('makes a database with WAL and foreign keys on', async () => {
    const database = await openDatabase(folder());
    const [mode] = await database.query<{ journal_mode: string }>('PRAGMA journal_mode', { type: QueryTypes.SELECT });
    const [keys] = await database.query<{ foreign_keys: number }>('PRAGMA foreign_keys', { type: QueryTypes.SELECT });
    expect([mode!.journal_mode, keys!.foreign_keys]).toEqual(['wal', 1]);
    await expect(database.query("INSERT INTO signal_values VALUES ('no such rig', 'fog', 0.5)")).rejects.toThrow('FOREIGN KEY');
    await database.close();
  });
  it('keeps a copy before each migration of a database that holds something', async () => {
    const at = folder();
    const first = await openDatabase(at);
    await first.query("INSERT INTO settings VALUES ('openRig', 'night-ferry')");
    await first.close();
    expect(readdirSync(at).filter((name) => name.includes('before'))).toEqual([]);
    await (await openDatabase(at, { steps: [...migrations, later] })).close();
    const copies = readdirSync(at).filter((name) => name.startsWith('pumice.before-0002-later'));
    expect(copies).toHaveLength(1);
    expect(readFileSync(join(at, copies[0]!)).includes('night-ferry')).toBe(true);
  });
  it('calls kits what were parts', async () => {
    const at = folder();
    const before = await openDatabase(at, { steps: migrations.slice(0, 6) });
    const kept = (id: string, content: object) => before.query('INSERT INTO library VALUES (?, ?, ?, 1, ?)', { replacements: [id, id, (content as { kind: string }).kind, JSON.stringify(content)] });
    await kept('deck', { kind: 'part', part: { name: 'Deck' } });
    await kept('soft', { kind: 'shaping', shaping: { steps: 3 } });
    await before.close();
    const after = await openDatabase(at);
    const rows = await after.query<{ kind: string; content: string }>('SELECT kind, content FROM library ORDER BY id', { type: QueryTypes.SELECT });
    expect(rows.map(({ kind, content }) => [kind, JSON.parse(content) as unknown])).toEqual([
      ['kit', { kind: 'kit', kit: { name: 'Deck' } }],
      ['shaping', { kind: 'shaping', shaping: { steps: 3 } }],
    ]);
    await after.close();
  });
  it('brings rigs and kits to the present version; where that made streams the steps that led there go, elsewhere they stay', async () => {
    const at = folder();
    const before = await openDatabase(at, { steps: migrations.slice(0, 7) });
    const rig = (name: string, kind: string) => ({ format: 'pumice-rig', version: 1, name, tempoBpm: 120, inputs: [{ id: 'board', name: 'Board', kind, ...(kind === 'midi' ? { device: { report: 'Board', slot: 1 } } : {}) }], signals: [], derived: [], mappings: [], outputs: [], receivers: [], surfaces: [], scenes: [] });
    for (const [id, kind] of [['plain', 'osc'], ['keys', 'midi']] as const) {
      await before.query('INSERT INTO rigs (id, name, document, revision, savedAtMs) VALUES (?, ?, ?, 1, 1)', { replacements: [id, id, JSON.stringify(rig(id, kind))] });
      await before.query("INSERT INTO revisions (rigId, number, madeAtMs, edit, inverse) VALUES (?, 1, 1, '{}', '{}')", { replacements: [id] });
    }
    await before.query("INSERT INTO library VALUES ('kit', 'kit', 'kit', 1, ?)", { replacements: [JSON.stringify({ kind: 'kit', kit: rig('kit', 'midi') })] });
    await before.close();
    const after = await openDatabase(at);
    const rows = await after.query<{ id: string; document: string }>('SELECT id, document FROM rigs ORDER BY id', { type: QueryTypes.SELECT });
    const documents = rows.map(({ document }) => JSON.parse(document) as unknown);
    expect(documents).toMatchObject([{ version: 3, streams: [{ id: 'board.notes', input: 'board' }] }, { version: 3, streams: [] }]);
    for (const document of documents) expect(checkRig(document)).toMatchObject({ ok: true });
    expect(await after.query('SELECT rigId FROM revisions', { type: QueryTypes.SELECT })).toEqual([{ rigId: 'plain' }]);
    const [kit] = await after.query<{ content: string }>('SELECT content FROM library', { type: QueryTypes.SELECT });
    expect(JSON.parse(kit!.content)).toMatchObject({ kind: 'kit', kit: { version: 3, streams: [{ id: 'board.notes' }] } });
    await after.close();
  });
  it('keeps that copy where the migration fails', async () => {
    const at = folder();
    await (await openDatabase(at)).close();
    await expect(openDatabase(at, { steps: [...migrations, failing] })).rejects.toThrow('out of stone');
    expect(readdirSync(at).some((name) => name.startsWith('pumice.before-0002-failing'))).toBe(true);
  });
  it('refuses a database that a newer version wrote, and leaves every byte of it', async () => {
    const at = folder();
    await (await openDatabase(at, { steps: [...migrations, later] })).close();
    const before = contents(at);
    await expect(openDatabase(at)).rejects.toThrow(/was written by a newer version of Pumice \(it has "0002-later"\)/);
    expect(contents(at)).toEqual(before);
  });
  it('refuses a file that is no database, and leaves it', async () => {
    const at = folder();
    writeFileSync(join(at, 'pumice.sqlite'), 'not a database, but somebody may want it back');
    await expect(openDatabase(at)).rejects.toThrow(/cannot be read/);
    expect(readFileSync(join(at, 'pumice.sqlite'), 'utf8')).toBe('not a database, but somebody may want it back');
  });
});
