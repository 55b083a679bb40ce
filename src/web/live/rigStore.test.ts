import { describe, expect, it } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import { applyEdit, type RigEdit } from '../../core/rig/edit';
import { randomFrom } from '../../core/standIn/noise';
import type { EditMaker, MadeEdit } from '../../protocol/madeEdit';
import { RefusedError, type RigAnswer } from './fetchRig';
import { RigStore } from './rigStore';

const FIRST: RigAnswer = { id: 'ferry', revision: 0, savedAtMs: 0, undo: null, redo: null, stage: false, document: testRig([{}, {}, {}]) };

/** Web process and hub in one, with windows on it; nothing arrives before `run` lets it, in an order of chance. */
class World {
  rig = FIRST;
  fetches = 0;
  isUp = true;
  readonly stores: RigStore[] = [];
  /** Every way of a message, each in its order: what waits on it. */
  private readonly ways = new Map<string, (() => void)[]>();
  private timers: (() => void)[] = [];

  constructor(private readonly chance: () => number) {}

  window(name: string): RigStore {
    const http = `http ${name}`;
    const later = <T>(way: string, what: () => T) =>
      new Promise<T>((resolve, reject) =>
        this.send(way, () => {
          try {
            const result = what();
            this.send(`${way} back`, () => resolve(result));
          } catch (error) {
            this.send(`${way} back`, () => reject(error as Error));
          }
        }),
      );
    const store: RigStore = new RigStore(FIRST, name, {
      fetch: () => {
        this.fetches++;
        // A request of its own, that nothing else of this window waits for.
        return later(`fetch ${this.fetches}`, () => this.rig);
      },
      postEdit: (_, edit, by) => later(http, () => this.take(edit, by)),
      postStep: () => Promise.reject(new Error('not in this test')),
      lineIsUp: () => this.isUp,
      later: (_, what) => void this.timers.push(what),
    });
    this.stores.push(store);
    return store;
  }

  private take(edit: RigEdit, by: EditMaker): MadeEdit {
    const applied = applyEdit(this.rig.document, edit);
    if (!applied.ok) throw new RefusedError({ code: 'not-found', field: applied.field, message: applied.message });
    this.rig = { ...this.rig, document: applied.document, revision: this.rig.revision + 1, savedAtMs: this.rig.revision + 1 };
    const { id, revision, savedAtMs, undo, redo } = this.rig;
    const made = { id, revision, savedAtMs, undo, redo, edit, by };
    if (this.isUp) this.stores.forEach((store, i) => this.send(`line ${i}`, () => store.heard(made)));
    return made;
  }

  sayRig(): void {
    const { id, revision, stage } = this.rig;
    this.stores.forEach((store, i) => this.send(`line ${i}`, () => store.heardRig(id, revision, stage)));
  }

  private send(way: string, what: () => void): void {
    this.ways.set(way, [...(this.ways.get(way) ?? []), what]);
  }

  /** Lets one thing arrive, whichever. False where nothing is under way. */
  async arrive(): Promise<boolean> {
    // What was promised goes on before the next thing arrives.
    await new Promise((resolve) => setImmediate(resolve));
    const waiting = [...this.ways].filter(([, queue]) => queue.length > 0);
    const timers = this.timers.splice(0);
    timers.forEach((what) => what());
    if (waiting.length > 0) waiting[Math.floor(this.chance() * waiting.length)]![1].shift()!();
    return waiting.length + timers.length > 0;
  }

  async run(): Promise<void> {
    while (await this.arrive());
  }
}

/** Something of everything that edits are made of; some do not fit when they arrive. */
function randomEdit(chance: () => number, i: number): RigEdit {
  const mapping = `m${Math.floor(chance() * 4)}`;
  const [plain] = FIRST.document.mappings;
  switch (Math.floor(chance() * 5)) {
    case 0:
      return { kind: 'setRig', set: { name: `Name ${i}`, tempoBpm: 60 + (i % 100) } };
    case 1:
      return { kind: 'setMapping', mapping, set: { name: `Mapping ${i}`, on: chance() < 0.5 } };
    case 2:
      return { kind: 'setMapping', mapping, set: chance() < 0.5 ? { group: `Group ${i % 3}` } : { group: null } };
    case 3:
      return { kind: 'change', changes: [{ list: 'mappings', id: mapping, to: null }] };
    default:
      return { kind: 'change', changes: [{ list: 'mappings', id: mapping, to: { ...plain!, id: mapping, name: `Anew ${i}` }, at: Math.floor(chance() * 3) }] };
  }
}

describe('RigStore', () => {
  it('two windows and the server are equal after 2,000 random edits, whatever arrives first; the document is not fetched once', async () => {
    for (const seed of [3, 71, 2026]) {
      const chance = randomFrom(seed);
      const world = new World(chance);
      const [one, other] = [world.window('one'), world.window('other')];
      let refused = 0;
      for (const store of [one, other]) store.onRefused(() => refused++);
      for (let i = 0; i < 667; i++) {
        (chance() < 0.5 ? one : other).edit(randomEdit(chance, i));
        for (let steps = Math.floor(chance() * 6); steps > 0; steps--) await world.arrive();
      }
      await world.run();
      expect(one.current()).toEqual(world.rig);
      expect(other.current()).toEqual(world.rig);
      expect(refused).toBeGreaterThan(0);
      expect(world.fetches).toBe(0);
    }
  });

  it('an edit is shown at once, once, and taken back where it is refused', async () => {
    const world = new World(randomFrom(1));
    const one = world.window('one');
    const names = () => one.current().document.mappings.map(({ id }) => id);
    one.edit({ kind: 'change', changes: [{ list: 'mappings', id: 'm1', to: null }] });
    expect(names()).toEqual(['m0', 'm2']);
    await world.run();
    expect([names(), one.current().revision]).toEqual([['m0', 'm2'], 1]);
    let said = '';
    one.onRefused(({ message }) => (said = message));
    // Gone on the server already, and not told yet.
    world.rig = { ...world.rig, document: { ...world.rig.document, mappings: [] }, revision: 2 };
    one.edit({ kind: 'setMapping', mapping: 'm0', set: { on: false } });
    expect(one.current().document.mappings[0]!.on).toBe(false);
    world.sayRig();
    await world.run();
    expect([said, names()]).toEqual(['There is no mapping "m0" in this rig.', []]);
  });

  it('says when the edits so far were answered, taken or not', async () => {
    const world = new World(randomFrom(4));
    const one = world.window('one');
    const seen: (number | string)[] = [];
    one.edit({ kind: 'setMapping', mapping: 'm0', set: { on: false } });
    one.edit({ kind: 'setMapping', mapping: 'away', set: { on: false } });
    one.onRefused(() => seen.push('refused'));
    void one.answeredSoFar().then(() => seen.push(world.rig.revision));
    one.edit({ kind: 'setMapping', mapping: 'm1', set: { on: false } });
    await world.run();
    expect(seen).toEqual(['refused', 1]);
    await one.answeredSoFar();
    expect(world.rig.revision).toBe(2);
  });

  it('edits that were missed while the line was down are fetched, once', async () => {
    const world = new World(randomFrom(5));
    const [one, other] = [world.window('one'), world.window('other')];
    world.isUp = false;
    for (let i = 0; i < 5; i++) one.edit({ kind: 'setMapping', mapping: 'm0', set: { name: `Mapping ${i}` } });
    await world.run();
    expect(other.current().revision).toBe(0);
    world.isUp = true;
    world.sayRig();
    await world.run();
    expect([other.current(), world.fetches]).toEqual([world.rig, 1]);
  });

  it('one that was missed on a line that is up shows itself in the next', async () => {
    const world = new World(randomFrom(5));
    const [one, other] = [world.window('one'), world.window('other')];
    world.isUp = false;
    one.edit({ kind: 'setMapping', mapping: 'm0', set: { name: 'Unheard' } });
    await world.run();
    world.isUp = true;
    one.edit({ kind: 'setMapping', mapping: 'm1', set: { name: 'Heard' } });
    await world.run();
    expect(other.current()).toEqual(world.rig);
  });

  it('what was made on top of an edit that is refused falls with it, in one sentence; what was made of something else stays', async () => {
    const world = new World(randomFrom(5));
    const one = world.window('one');
    const said: string[] = [];
    one.onRefused(({ message }) => said.push(message));
    const mapping = (id: string, name: string): RigEdit => ({ kind: 'change', changes: [{ list: 'mappings', id, to: { ...FIRST.document.mappings[0]!, id, name } }] });
    // Refused as a whole, for there is nothing to be taken away: what was added with it is not there either.
    one.edit({ kind: 'change', changes: [...(mapping('new', 'New') as Extract<RigEdit, { kind: 'change' }>).changes, { list: 'mappings', id: 'nowhere', to: null }] });
    one.edit(mapping('new', 'Renamed'));
    one.edit({ kind: 'setMapping', mapping: 'm1', set: { name: 'Another' } });
    one.edit({ kind: 'setMapping', mapping: 'new', set: { name: 'Renamed again' } });
    await world.run();
    expect(said).toHaveLength(1);
    expect(one.current()).toEqual(world.rig);
    expect(world.rig.document.mappings.map(({ name }) => name)).toEqual(['Mapping 0', 'Another', 'Mapping 2']);
    // Once that is known it can be made.
    one.edit(mapping('new', 'Anew'));
    await world.run();
    expect([one.current(), world.rig.document.mappings.at(-1)!.name]).toEqual([world.rig, 'Anew']);
  });

  it('what was made of an edit that nobody answered is tried, and says nothing more where it is refused', async () => {
    const posted: string[] = [];
    const nameOf = (edit: RigEdit) => (edit.kind === 'setMapping' ? edit.set.name! : '');
    const store = new RigStore(FIRST, 'one', {
      fetch: () => Promise.resolve(FIRST),
      postEdit: (_, edit) => {
        posted.push(nameOf(edit));
        return Promise.reject(posted.length === 1 ? new Error('Nobody answers.') : new RefusedError({ code: 'invalid', field: 'edit', message: `${nameOf(edit)} cannot be.` }));
      },
      postStep: () => Promise.reject(new Error('not in this test')),
      lineIsUp: () => true,
      later: () => undefined,
    });
    const said: string[] = [];
    store.onRefused(({ message }) => said.push(message));
    for (const [mapping, name] of [['m0', 'First'], ['m0', 'Made of it'], ['m1', 'Another']] as const) store.edit({ kind: 'setMapping', mapping, set: { name } });
    await new Promise((resolve) => setImmediate(resolve));
    expect([posted, said]).toEqual([['First', 'Made of it', 'Another'], ['Nobody answers.', 'Another cannot be.']]);
    expect(store.current().document).toEqual(FIRST.document);
  });

  it('Undo of an edit that is refused meanwhile takes back no other; once that is known it does', async () => {
    const steps: string[] = [];
    const { id, revision, savedAtMs } = FIRST;
    const store = new RigStore(FIRST, 'one', {
      fetch: () => Promise.resolve(FIRST),
      postEdit: () => Promise.reject(new RefusedError({ code: 'conflict', field: 'edit', message: 'Somebody else did.' })),
      postStep: (_, way) => (steps.push(way), Promise.resolve({ id, revision, savedAtMs, undo: null, redo: null })),
      lineIsUp: () => true,
      later: () => undefined,
    });
    store.edit({ kind: 'setMapping', mapping: 'm0', set: { name: 'Refused' } });
    store.step('undo');
    await new Promise((resolve) => setImmediate(resolve));
    expect(steps).toEqual([]);
    store.step('undo');
    await new Promise((resolve) => setImmediate(resolve));
    expect(steps).toEqual(['undo']);
  });

  it('a rig that the server had to take back is taken back here', async () => {
    const world = new World(randomFrom(9));
    const one = world.window('one');
    one.edit({ kind: 'setMapping', mapping: 'm0', set: { name: 'Not stored' } });
    await world.run();
    world.rig = FIRST;
    world.sayRig();
    await world.run();
    expect(one.current()).toEqual(FIRST);
  });

  it('also where another edit has its number by then, whenever that arrives', async () => {
    for (let seed = 0; seed < 40; seed++) {
      const world = new World(randomFrom(seed));
      const [one, other] = [world.window('one'), world.window('other')];
      one.edit({ kind: 'setMapping', mapping: 'm0', set: { name: 'Not stored' } });
      await world.run();
      world.rig = FIRST;
      world.sayRig();
      for (let steps = seed % 4; steps > 0; steps--) await world.arrive();
      other.edit({ kind: 'setMapping', mapping: 'm1', set: { name: 'Stored' } });
      await world.run();
      expect([one.current(), other.current()]).toEqual([world.rig, world.rig]);
    }
  });

  it('an answer that was overtaken takes nothing back', async () => {
    const world = new World(randomFrom(4));
    const one = world.window('one');
    const old = world.rig;
    one.edit({ kind: 'setMapping', mapping: 'm0', set: { name: 'Newer' } });
    await world.run();
    one.whole({ ...old, stage: true });
    await world.run();
    expect(one.current()).toEqual(world.rig);
  });

  it('another rig that is open for a moment only does not stay here, however late its document comes', async () => {
    for (let steps = 0; steps < 4; steps++) {
      const world = new World(randomFrom(4));
      const one = world.window('one');
      for (const rig of [{ ...FIRST, id: 'harbour' }, FIRST]) {
        world.rig = rig;
        one.heardRig(rig.id, rig.revision, rig.stage);
        if (rig !== FIRST) for (let i = 0; i < steps; i++) await world.arrive();
      }
      await world.run();
      expect(one.current()).toEqual(FIRST);
    }
  });

  it('Stage is not left for good by a document that was asked for before it', async () => {
    for (const told of ['line', 'answer']) {
      const world = new World(randomFrom(4));
      const one = world.window('one');
      // A revision that nobody has: the rig is fetched, as it is on the Bench.
      world.rig = { ...FIRST, revision: 1 };
      one.heardRig('ferry', 1, false);
      await world.arrive();
      world.rig = { ...world.rig, stage: true };
      if (told === 'line') one.heardRig('ferry', 1, true);
      else one.whole(world.rig);
      await world.run();
      expect(one.current()).toEqual(world.rig);
    }
  });

  it('Stage is followed without the document', () => {
    const world = new World(randomFrom(4));
    const one = world.window('one');
    one.heardRig('ferry', 0, true);
    expect([one.current().stage, one.current().document, world.fetches]).toEqual([true, FIRST.document, 0]);
    one.heardRig('', -1, false);
    expect(one.current().stage).toBe(true);
  });
});
