import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, vi } from 'vitest';
import { openDatabase } from './database';
import { SettingRow } from './models';
import { RigRepository } from './rigRepository';

it('of two settings that are written one after another the later stays, however long the earlier takes; also after one that was refused', async () => {
  const database = await openDatabase(mkdtempSync(join(tmpdir(), 'pumice-settings-')));
  const repository = new RigRepository(database);
  const upsert = SettingRow.upsert.bind(SettingRow);
  let open = () => {};
  const opened = new Promise<void>((resolve) => (open = resolve));
  vi.spyOn(SettingRow, 'upsert').mockImplementationOnce(async (...row) => (await opened, upsert(...row)));
  const written = ['red', 'blue'].map((value) => repository.saveSetting('look', value));
  setImmediate(open);
  await Promise.all(written);
  expect(await repository.setting('look')).toBe('blue');
  vi.spyOn(SettingRow, 'upsert').mockRejectedValueOnce(new Error('full'));
  const refused = repository.saveSetting('look', 'green');
  const later = repository.saveSetting('look', 'grey');
  await expect(refused).rejects.toThrow('full');
  await later;
  expect(await repository.setting('look')).toBe('grey');
  await database.close();
});
