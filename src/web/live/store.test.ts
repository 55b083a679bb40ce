import { describe, expect, it, vi } from 'vitest';
import { encodeCaptured, encodeFacts, encodeHeard, encodeValues, FRAME } from '../../protocol/frames';
import { HERE, LiveStore, type NamedFact } from './store';

function made() {
  const wanted = vi.fn();
  const store = new LiveStore(wanted, () => 1000);
  store.hear({ kind: 'names', names: { signals: [[4, 'fog'], [7, 'bell']], mappings: [[2, 'm']], streams: [], outputs: [[1, 'weather']] } });
  const values = (kind: typeof FRAME.values | typeof FRAME.levels, numbers: number[], of: number[], heardUpTo = 0) => store.hearFrame(new DataView(encodeValues(kind, { hubTimeMs: 1, heardUpTo, numbers, values: of })));
  return { store, wanted, values };
}

describe('the store of the live line', () => {
  it('keeps the values of signals and the levels of mappings by id, and tells whoever listens to that one', () => {
    const { store, values } = made();
    const heard: number[] = [];
    const end = store.signals.listen('fog', (value) => heard.push(value));
    values(FRAME.values, [4, 7, 9], [0.5, 1, 0.25]);
    values(FRAME.levels, [2], [0.75]);
    end();
    values(FRAME.values, [4], [0.25]);
    expect(heard).toEqual([0.5]);
    expect([store.signals.value('fog'), store.signals.value('bell'), store.levels.value('m'), store.levels.value('fog')]).toEqual([0.25, 1, 0.75, undefined]);
  });
  it('a value that is older than what the page sent since is not taken over', () => {
    const { store, values } = made();
    store.said.set('fog', 7);
    values(FRAME.values, [4, 7], [0.25, 1], 7);
    expect([store.signals.value('fog'), store.signals.value('bell')]).toEqual([undefined, 1]);
    values(FRAME.values, [4], [0.75], 8);
    expect(store.signals.value('fog')).toBe(0.75);
  });
  it('what is listened to is what the page wants to be shown', () => {
    const { store, wanted } = made();
    expect(store.watch).toEqual({ monitor: false, activity: false, inputs: false, outputStates: false, mappingStates: false, ensemble: false });
    const ends = [store.facts.listen(HERE, () => undefined), store.surfaces.listen(() => undefined), store.raw.listen('rope', () => undefined), store.mappingStates.listen(() => undefined), store.signals.listen('fog', () => undefined)];
    expect(store.watch).toEqual({ monitor: true, activity: true, inputs: false, outputStates: false, mappingStates: true, ensemble: false, raw: 'rope' });
    expect(store.signals.watched).toEqual(['fog']);
    ends.forEach((end) => end());
    expect([store.watch.monitor, store.signals.watched, wanted.mock.calls.length]).toEqual([false, [], 10]);
  });
  it('two that listen to one thing are both told, and it stays watched until the last has gone', () => {
    const { store, values } = made();
    const heard: string[] = [];
    const first = store.signals.listen('fog', (value) => heard.push(`a ${value}`));
    const second = store.signals.listen('fog', (value) => heard.push(`b ${value}`));
    values(FRAME.values, [4], [1]);
    first();
    first();
    values(FRAME.values, [4], [0]);
    expect([heard, store.signals.watched]).toEqual([['a 1', 'b 1', 'b 0'], ['fog']]);
    second();
    expect(store.signals.watched).toEqual([]);
  });
  it('an edit moves the rig on and leaves Stage as it is', () => {
    const { store } = made();
    const edits: number[] = [];
    store.edited.listen(HERE, ({ revision }) => edits.push(revision));
    store.hear({ kind: 'rig', rig: 'r', revision: 3, stage: true });
    store.hear({ kind: 'edited', made: { id: 'r', revision: 4, savedAtMs: 0, undo: null, redo: null, edit: { kind: 'setRig', set: { name: 'N' } } } });
    expect([store.rig.value, edits]).toEqual([{ id: 'r', revision: 4, stage: true }, [4]]);
  });
  it('knows when a mapping was heard by the clock of the page, and a receiver by its addresses', () => {
    const { store } = made();
    store.hear({ kind: 'mappingStates', states: { numbers: [2, 5], heardMsAgo: [300, -1], sends: [true, false], alone: [], membersOff: [], scene: 's' } });
    expect(store.mappingStates.value.byId.get('m')).toEqual({ heardMs: 700, sends: true });
    expect(store.mappingStates.value.scene).toBe('s');
    store.hearFrame(new DataView(encodeHeard(1, [{ kind: 'note', channel: 1, number: 60, value: 100 }])));
    store.hearFrame(new DataView(encodeHeard(1, [{ kind: 'note', channel: 1, number: 60, value: 0 }, { kind: 'controlChange', channel: 2, number: 7, value: 9 }])));
    expect([...store.heard.value('weather')!.values()].map(({ number, value }) => [number, value])).toEqual([[60, 0], [7, 9]]);
  });
  it('of how inputs are, what did not change is the same object, so that no screen draws it again', () => {
    const { store } = made();
    const feed = (report: string, rateHz: number) => ({ kind: 'osc' as const, report, slot: 0, name: report, input: report, state: 'live' as const, where: 'socket', remark: null, rateHz, lastHeardMsAgo: 0, count: 1, signals: [], unknown: 0 });
    const said = (rateHz: number) => store.hear({ kind: 'inputs', inputs: { listening: true, feeds: [feed('rope', rateHz), feed('mast', 5)], oscPorts: [], leftOut: { broken: 0, strangers: 0, loops: 0, tooMany: 0, ignored: 0 }, standIns: [{ id: 'deck', on: true, settings: {} as never }], midiProblem: null } });
    said(10);
    const before = store.inputs.value!;
    said(20);
    const after = store.inputs.value!;
    expect([after.standIns === before.standIns, after.leftOut === before.leftOut, after.feeds[1] === before.feeds[1]]).toEqual([true, true, true]);
    expect([before.feeds[0]!.rateHz, after.feeds[0]!.rateHz]).toEqual([10, 20]);
  });
  it('names what enters and leaves, what it does not know by a question mark', () => {
    const { store } = made();
    const told: NamedFact[] = [];
    store.facts.listen(HERE, (facts) => told.push(...facts));
    store.hearFrame(
      new DataView(
        encodeFacts(
          [
            { direction: 'in', hubTimeMs: 1, signal: 4, value: 0.5 },
            { direction: 'out', hubTimeMs: 2, output: 1, who: 'mapping', mapping: 2, delayMs: 2.5, bytes: Uint8Array.of(0xb0, 1, 2) },
            { direction: 'out', hubTimeMs: 3, output: 9, who: 'panic', mapping: null, delayMs: null, bytes: Uint8Array.of(0xb0, 120, 0) },
          ],
          0,
        ),
      ),
    );
    expect(told.map(({ where, who, mapping, value, bytes, delayMs }) => [where, who, mapping, value, bytes?.length, delayMs])).toEqual([['fog', null, null, 0.5, undefined, null], ['weather', 'mapping', 'm', null, 3, 2.5], ['?', 'panic', null, null, 3, null]]);
  });
  it('gives every raw number of a signal, in order', () => {
    const { store } = made();
    const raw: [number, number][] = [];
    store.captured.listen('fog', (timeMs, value) => raw.push([timeMs, value]));
    store.hearFrame(new DataView(encodeCaptured([{ signal: 4, timeMs: 1, value: 0.5 }, { signal: 7, timeMs: 2, value: 1 }, { signal: 4, timeMs: 3, value: 0.75 }], 0)));
    expect(raw).toEqual([[1, 0.5], [3, 0.75]]);
  });
});
