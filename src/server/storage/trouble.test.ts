import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, vi } from 'vitest';
import { nightFerry } from '../demo/nightFerry';
import { RigDesk } from '../rigDesk';
import { openDatabase } from './database';
import { isDiskFull, troubleOf } from './trouble';
import { RigRepository } from './rigRepository';

it('knows a full disk by what SQLite and the system say, however it is wrapped', () => {
  expect(isDiskFull({ name: 'SequelizeDatabaseError', original: { code: 'SQLITE_FULL' } }, '/')).toBe(true);
  expect(isDiskFull(Object.assign(new Error('no space left on device'), { code: 'ENOSPC' }), '/')).toBe(true);
  expect(isDiskFull(new Error('SQLITE_FULL: database or disk is full'), '/')).toBe(true);
  // With room left an I/O error is an I/O error.
  expect(isDiskFull(new Error('SQLITE_IOERR: disk I/O error'), tmpdir())).toBe(false);
  expect(isDiskFull(new Error('anything'), '/')).toBe(false);
  expect(isDiskFull(null, '/')).toBe(false);
});

it('knows a database that another program holds, and one that cannot be written to', () => {
  expect(troubleOf({ name: 'SequelizeTimeoutError', original: { code: 'SQLITE_BUSY' } }, '/')).toBe('held');
  expect(troubleOf(new Error('SQLITE_READONLY: attempt to write a readonly database'), '/')).toBe('unwritable');
  expect(troubleOf(new Error('SQLITE_IOERR: disk I/O error'), tmpdir())).toBe('unwritable');
  expect(troubleOf(new Error('SQLITE_CONSTRAINT: UNIQUE constraint failed'), '/')).toBe(null);
  // A port that may not be listened at.
  expect(troubleOf(Object.assign(new Error('listen EACCES'), { code: 'EACCES' }), '/')).toBe(null);
});

it('values that a full disk does not take are kept, and written once there is room', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-full-'));
  const database = await openDatabase(folder);
  const failures: unknown[] = [];
  const desk = new RigDesk(new RigRepository(database), () => undefined, Date.now, (error) => failures.push(error));
  await desk.open({ id: 'ferry', document: nightFerry() });
  const [[{ page_count: pages }]] = (await database.query('PRAGMA page_count')) as unknown as [[{ page_count: number }]];
  await database.query(`PRAGMA max_page_count = ${pages}`);
  for (let i = 0; i < 3000; i++) desk.remember(`signal-${i}`, i);
  await desk.flush();
  expect(failures.map((error) => isDiskFull(error, folder))).toEqual([true]);
  desk.remember('signal-0', 7);
  await database.query('PRAGMA max_page_count = 1073741823');
  await desk.flush();
  const again = new RigDesk(new RigRepository(database), () => undefined, Date.now);
  await again.open({ id: 'ferry', document: nightFerry() });
  expect([again.lastValues['signal-0'], again.lastValues['signal-2999']]).toEqual([7, 2999]);
  await database.close();
});

it('values of a rig that is left while nothing can be written are there when it is opened again, and are written once that can be', async () => {
  const database = await openDatabase(mkdtempSync(join(tmpdir(), 'pumice-left-')));
  const repository = new RigRepository(database);
  const failures: unknown[] = [];
  const desk = new RigDesk(repository, () => undefined, Date.now, (error) => failures.push(error));
  await desk.open({ id: 'ferry', document: nightFerry() });
  const { id: other } = await desk.take(nightFerry());
  const { id: third } = await desk.take(nightFerry());
  desk.remember('fog', 0.5);
  const full = vi.spyOn(repository, 'saveValues').mockRejectedValue(Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' }));
  await desk.switchTo(other);
  desk.remember('fog', 0.25);
  const flushed = desk.flush();
  await desk.switchTo(third);
  await flushed;
  expect([failures.length, desk.lastValues.fog]).toEqual([3, undefined]);
  await desk.switchTo('ferry');
  expect(desk.lastValues.fog).toBe(0.5);
  full.mockRestore();
  await desk.flush();
  expect([await repository.values('ferry'), await repository.values(other)]).toEqual([{ fog: 0.5 }, { fog: 0.25 }]);
  await database.close();
});

it('a disk that is full or held keeps nobody from the Stage; it is stored once that can be', async () => {
  const database = await openDatabase(mkdtempSync(join(tmpdir(), 'pumice-stage-')));
  const repository = new RigRepository(database);
  const failures: unknown[] = [];
  const desk = new RigDesk(repository, () => undefined, Date.now, (error) => failures.push(error));
  await desk.open({ id: 'ferry', document: nightFerry() });
  const held = vi.spyOn(repository, 'saveSetting').mockRejectedValue(Object.assign(new Error('database is locked'), { code: 'SQLITE_BUSY' }));
  expect([(await desk.setStage(true)).stage, failures.length]).toEqual([true, 1]);
  held.mockRestore();
  expect(await repository.setting('stage')).toBe(null);
  await desk.flush();
  expect(await repository.setting('stage')).toBe('true');
  await database.close();
});
