import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Found } from '../core/inputs/feed';
import { testRig } from '../core/engine/testRig';
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

const found = [{ feed: { kind: 'osc', report: 'here /rope', name: 'Rope', slot: 1 }, sources: [{ key: '/rope/a 0', name: 'A', kind: 'continuous', unit: 'unit', range: [0, 1], osc: { address: '/rope/a', argument: 0 } }] }] satisfies Found[];

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
    await expect(it.edit('other', off)).rejects.toThrow('The rig that this was for is not open: Test rig is. Nothing was changed');
    expect(changes()).toBe(0);
    await it.setStage(true);
    await expect(it.edit('test', off)).rejects.toThrow('Pumice is on Stage');
    expect(it.current.revision).toBe(0);
    await close();
  });
  it('takes back what cannot be stored, and tells the hub of the former rig', async () => {
    const { desk: it, close, changes } = await desk();
    await close();
    await expect(it.edit('test', off)).rejects.toThrow();
    expect([it.current.revision, it.current.document.mappings[0]!.on, it.current.undo, changes()]).toEqual([0, true, null, 2]);
  });
  it('refuses an edit that was made before its window saw what was undone', async () => {
    const { desk: it, close } = await desk();
    await it.edit('test', off, { window: 'a', basedOn: 0 });
    await it.step('test', 'undo');
    await expect(it.edit('test', off, { window: 'a', basedOn: 1 })).rejects.toThrow('Changed a moment before, in another window or by Undo: Mapping 0: on or off. It is shown now');
    await it.edit('test', off, { window: 'a', basedOn: 2 });
    expect(it.current.document.mappings[0]!.on).toBe(false);
    await close();
  });
  it('takes edits back and makes them again, across a restart; quick edits of one number are one step', async () => {
    const first = await desk();
    await first.desk.edit('test', { kind: 'setRig', set: { tempoBpm: 90 } });
    await first.desk.edit('test', { kind: 'setRig', set: { tempoBpm: 91 } });
    await first.desk.edit('test', off);
    expect([first.desk.current.undo, first.desk.current.redo]).toEqual(['Mapping 0: on or off', null]);
    await first.desk.step('test', 'undo');
    expect(first.desk.current.document.mappings[0]!.on).toBe(true);
    await first.close();

    const second = await desk(first.folder);
    const { desk: it } = second;
    expect([it.current.undo, it.current.redo]).toEqual(['the rig: tempo', 'Mapping 0: on or off']);
    await it.step('test', 'undo');
    expect([it.current.document, it.current.undo]).toEqual([testRig([{}]), null]);
    await it.step('test', 'undo');
    await it.step('test', 'redo');
    await it.step('test', 'redo');
    expect([it.current.document.tempoBpm, it.current.document.mappings[0]!.on, it.current.redo]).toEqual([91, false, null]);
    expect(it.steps.map(({ words, takenBack }) => [words, takenBack])).toEqual([['Mapping 0: on or off', false], ['the rig: tempo', false]]);
    await it.setStage(true);
    await expect(it.step('test', 'undo')).rejects.toThrow('Pumice is on Stage');
    await second.close();
  });
  it('deletes a rig that is not open, and gives it back so that it can be taken in again', async () => {
    const { desk: it, close } = await desk();
    const { id } = await it.take(testRig([{}, {}]));
    await expect(it.remove('test')).rejects.toThrow('Test rig is open');
    const removed = await it.remove(id);
    expect((await it.list()).map((rig) => rig.id)).toEqual(['test']);
    expect(removed.document).toEqual(testRig([{}, {}]));
    await expect(it.remove(id)).rejects.toThrow('There is no rig');
    await close();
  });
  it('takes up what arrived once, and nothing on Stage', async () => {
    const { desk: it, close } = await desk();
    await it.setStage(true);
    await it.takeUp('test', found);
    expect(it.current.document.inputs).toHaveLength(1);
    await it.setStage(false);
    await Promise.all([it.takeUp('test', found), it.takeUp('test', found)]);
    expect([it.current.document.inputs.length, it.current.revision]).toEqual([2, 1]);
    await close();
  });
  it('takes nothing up into a rig that was opened since it arrived', async () => {
    const { desk: it, close } = await desk();
    await it.takeUp('the one before', found);
    expect([it.current.document.inputs.length, it.current.revision]).toEqual([1, 0]);
    await close();
  });
  it('what is taken up is nobody’s edit: undo passes over it, also after a restart, and redo outlives it', async () => {
    const first = await desk();
    await first.desk.edit('test', off);
    await first.desk.takeUp('test', found);
    expect(first.desk.current.undo).toBe('Mapping 0: on or off');
    await first.desk.step('test', 'undo');
    expect(first.desk.current.document.mappings[0]!.on).toBe(true);
    expect(first.desk.current.document.inputs.length).toBeGreaterThan(1);
    await first.desk.takeUp('test', found.map((one) => ({ ...one, feed: { ...one.feed, report: 'another', name: 'Another' } })));
    await first.close();
    const { desk: again, close } = await desk(first.folder);
    expect([again.current.undo, again.current.redo]).toEqual([null, 'Mapping 0: on or off']);
    await again.step('test', 'redo');
    expect(again.current.document.mappings[0]!.on).toBe(false);
    await close();
  });
  it('runs many edits at once one after another, none lost', async () => {
    const { desk: it, close } = await desk();
    await Promise.all(Array.from({ length: 40 }, (_, i) => it.edit('test', { kind: 'setRig', set: { tempoBpm: 60 + i } })));
    expect([it.current.revision, it.current.document.tempoBpm]).toEqual([40, 99]);
    await close();
  });
  it('what moves while another rig is opened is kept with the one that it was of', async () => {
    const { desk: it, close } = await desk();
    const other = await it.take(testRig([{}]));
    const switching = it.switchTo(other.id);
    // Queued behind the first turn of the switch: the rig is still the former one.
    it.remember('fog', 0.25);
    await switching;
    await it.flush();
    expect(it.lastValues).toEqual({});
    await it.switchTo('test');
    expect(it.lastValues).toEqual({ fog: 0.25 });
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
