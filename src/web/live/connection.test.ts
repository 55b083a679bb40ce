import { expect, it } from 'vitest';
import type { FromClient, ToClient } from '../../protocol/live';
import { LiveConnection } from './connection';
import type { LineSocket } from './lineSocket';

/** A page and a hub in memory. */
function made(pageMs = () => 0) {
  const sent: (FromClient | 'frame')[] = [];
  let socket: LineSocket | null = null;
  const live = new LiveConnection(
    {
      open() {
        socket = { readyState: 1, binaryType: '', onopen: null, onmessage: null, onclose: null, send: (data) => void sent.push(typeof data === 'string' ? (JSON.parse(data) as FromClient) : 'frame'), close: () => undefined };
        return socket;
      },
      ask: () => Promise.resolve(true),
      nowMs: () => 0,
      after: (ms, work) => {
        if (ms === 0) queueMicrotask(work);
        return () => undefined;
      },
      onAwake: () => () => undefined,
    },
    'deck',
    pageMs,
  );
  live.start();
  const say = (message: ToClient) => socket!.onmessage!({ data: JSON.stringify(message) });
  const welcome = (rig: string, signals: [number, string][] = []) => say({ kind: 'welcome', version: 3, hubTimeMs: 0, names: { signals, mappings: [], streams: [], outputs: [] }, rig, revision: 4, stage: false });
  socket!.onopen!();
  return { live, say, welcome, take: () => sent.splice(0), open: () => socket!.onopen!(), cut: () => socket!.onclose!({ code: 1006 }) };
}

it('says what it is, and is open once the hub has a rig: before that nothing that is played would be heard', () => {
  const { live, say, welcome, take } = made();
  expect(take()[0]).toMatchObject({ kind: 'hello', surface: 'deck' });
  welcome('');
  expect([live.status, live.send([{ signal: 'fog', value: 1 }], 0)]).toEqual(['connecting', false]);
  say({ kind: 'names', names: { signals: [[3, 'fog']], mappings: [], streams: [], outputs: [] } });
  say({ kind: 'rig', rig: 'night', revision: 1, stage: false });
  take();
  expect([live.status, live.send([{ signal: 'fog', value: 1 }], 0), take()]).toEqual(['open', true, ['frame']]);
});

it('sends nothing of several values where one has no number', () => {
  const { live, welcome, take } = made();
  welcome('night', [[3, 'fog']]);
  take();
  expect([live.send([{ signal: 'fog', value: 1 }, { signal: 'gone', value: 1 }], 0), take()]).toEqual([false, []]);
});

it('tells another hub again what it watches and what it holds back', () => {
  const { live, welcome, take, open } = made();
  live.store.signals.listen('fog', () => undefined);
  live.holdBack(['fog']);
  welcome('night', [[3, 'fog']]);
  take();
  open();
  welcome('night', [[8, 'fog']]);
  const again = take();
  expect(again.filter((message) => message !== 'frame' && message.kind === 'watchList')).toEqual([{ kind: 'watchList', what: 'signals', add: [8], remove: [] }]);
  expect(again).toContainEqual({ kind: 'holdBack', signals: ['fog'] });
});

it('a surface that is tried here is played again once the line is back, and is not after its end', async () => {
  const { live, welcome, take, open, cut } = made();
  const comesBack = async () => {
    cut();
    // It is asked first whether somebody is there.
    await new Promise(setImmediate);
    open();
    welcome('night');
  };
  const told = () => take().filter((message) => message !== 'frame' && (message.kind === 'try' || message.kind === 'record'));
  welcome('night');
  live.try('deck');
  live.state.listen(() => void (live.status === 'open' && live.tell({ kind: 'record', does: 'mark' })));
  expect(told()).toEqual([{ kind: 'try', surface: 'deck' }]);
  await comesBack();
  // Before anybody is told that the line is open: fingers that are still down are said again then.
  expect(told()).toEqual([{ kind: 'try', surface: 'deck' }, { kind: 'record', does: 'mark' }]);
  live.try(null);
  await comesBack();
  expect(told()).toEqual([{ kind: 'try', surface: null }, { kind: 'record', does: 'mark' }]);
});

it('a Panic that had no answer goes out when the line is back, after what fingers hold; not once it was answered, nor when it was long ago', async () => {
  let nowMs = 0;
  const { live, say, welcome, take, open, cut } = made(() => nowMs);
  const back = async () => {
    await new Promise(setImmediate);
    open();
    welcome('');
    const early = take();
    say({ kind: 'rig', rig: 'night', revision: 1, stage: false });
    return [early, take()].map((told) => told.map((message) => (message === 'frame' ? message : message.kind)).filter((kind) => ['frame', 'panic'].includes(kind)));
  };
  welcome('night', [[3, 'bell']]);
  live.state.listen(() => void (live.status === 'open' && live.sendFrame(() => new ArrayBuffer(1))));
  take();
  // Told, and lost with the line.
  expect([live.panic(), live.panicWaits, take()]).toEqual([true, true, [{ kind: 'panic' }]]);
  cut();
  // Pressed while it is away.
  nowMs = 100;
  expect([live.panic(), take()]).toEqual([false, []]);
  nowMs = 4000;
  expect(await back()).toEqual([[], ['frame', 'panic']]);
  say({ kind: 'panicked', notes: 2 });
  cut();
  expect([live.panicWaits, await back()]).toEqual([false, [[], ['frame']]]);
  cut();
  live.panic();
  nowMs = 9000;
  expect(await back()).toEqual([[], ['frame']]);
});

it('a scene that the hub may not have heard of is recalled again when the line is back; not once a ping after it was answered, nor when it was long ago', async () => {
  let nowMs = 0;
  const { live, say, welcome, take, open, cut } = made(() => nowMs);
  const told = () => take().flatMap((message) => (message === 'frame' || !['recall', 'panic'].includes(message.kind) ? [] : [message.kind === 'recall' ? message.scene : message.kind]));
  const back = async () => {
    await new Promise(setImmediate);
    open();
    welcome('night');
    return told();
  };
  const answered = (pageTimeMs: number) => say({ kind: 'pong', pageTimeMs, hubTimeMs: 0 });
  welcome('night');
  nowMs = 100;
  expect([live.recall('harbour'), told()]).toEqual([true, ['harbour']]);
  // The answer to one that was on its way before says nothing.
  answered(99);
  cut();
  // A hub that has just begun has no rig yet, but answers.
  await new Promise(setImmediate);
  open();
  welcome('');
  answered(150);
  expect(told()).toEqual([]);
  say({ kind: 'rig', rig: 'night', revision: 1, stage: true });
  expect(told()).toEqual(['harbour']);
  answered(100);
  cut();
  expect(await back()).toEqual([]);
  cut();
  nowMs = 200;
  expect([live.recall('harbour'), live.recall('landfall'), told()]).toEqual([false, false, []]);
  live.panic();
  nowMs = 300;
  expect(await back()).toEqual(['landfall', 'panic']);
  cut();
  nowMs = 310;
  live.recall('harbour');
  expect(await back()).toEqual(['panic', 'harbour']);
  cut();
  nowMs = 6000;
  expect(await back()).toEqual([]);
});

it('what a person wants done goes to a hub that has a rig, or not at all', () => {
  const { live, say, welcome, take, cut } = made();
  const start = () => [live.tellNow({ kind: 'transport', does: 'start' }), take().some((message) => message !== 'frame' && message.kind === 'transport')];
  take();
  expect(start()).toEqual([false, false]);
  welcome('');
  expect(start()).toEqual([false, false]);
  say({ kind: 'rig', rig: 'night', revision: 1, stage: false });
  expect(start()).toEqual([true, true]);
  cut();
  expect(start()).toEqual([false, false]);
});

it('what receivers held is not known any more once the line is lost', () => {
  const { live, welcome, cut } = made();
  welcome('night');
  live.store.heard.set('weather', new Map());
  cut();
  expect([live.status, live.store.heard.value('weather'), live.state.value.waitsFor]).toEqual(['lost', undefined, 'answer']);
});
