import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { testRig } from '../core/mapping/testRig';
import { RigDesk } from './rigDesk';
import { openDatabase } from './storage/database';
import { RevisionRow } from './storage/models';
import { RigRepository } from './storage/rigRepository';

async function desk(folder = mkdtempSync(join(tmpdir(), 'pumice-desk-'))) {
  const database = await openDatabase(folder);
  let changes = 0;
  const opened = new RigDesk(new RigRepository(database), () => changes++, () => 1000);
  await opened.open({ id: 'test', document: testRig([{}]) });
  return { desk: opened, folder, close: () => database.close(), changes: () => changes };
}

const off = { kind: 'setMapping', mapping: 'm0', set: { on: false } } as const;

describe('RigDesk', () => {
  it('stores an edit with its inverse, tells the hub, and has it again after a restart', async () => {
    const first = await desk();
    await first.desk.edit('test', off);
    expect(first.changes()).toBe(1);
    const [revision] = await RevisionRow.findAll();
    expect([revision!.number, JSON.parse(revision!.inverse)]).toEqual([1, { kind: 'setMapping', mapping: 'm0', set: { on: true } }]);
    await first.close();
    const second = await desk(first.folder);
    expect([second.desk.current.document.mappings[0]!.on, second.desk.current.revision]).toEqual([false, 1]);
    await second.close();
  });
  it('changes nothing where an edit would leave a dangling reference, a rig is not there, or the Stage is on', async () => {
    const { desk: it, close, changes } = await desk();
    await expect(it.edit('test', { kind: 'setMapping', mapping: 'm0', set: { output: 'nowhere' } })).rejects.toThrow('mappings[0].output: expected the id of an output');
    await expect(it.edit('other', off)).rejects.toThrow('There is no rig "other".');
    expect(changes()).toBe(0);
    await it.setStage(true);
    await expect(it.edit('test', off)).rejects.toThrow('Pumice is on Stage');
    expect(it.current.revision).toBe(0);
    await close();
  });
  it('runs many edits at once one after another, none lost', async () => {
    const { desk: it, close } = await desk();
    await Promise.all(Array.from({ length: 40 }, (_, i) => it.edit('test', { kind: 'setRig', set: { tempoBpm: 60 + i } })));
    expect([it.current.revision, it.current.document.tempoBpm]).toEqual([40, 99]);
    await close();
  });
  it('has the last values of signals again after a restart', async () => {
    const first = await desk();
    first.desk.remember('fog', 0.25);
    first.desk.remember('fog', 0.75);
    await first.desk.flush();
    await first.close();
    const second = await desk(first.folder);
    expect(second.desk.lastValues).toEqual({ fog: 0.75 });
    await second.close();
  });
});
