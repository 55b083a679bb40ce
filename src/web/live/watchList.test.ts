import { expect, it } from 'vitest';
import { WATCH_PIECE, type FromClient } from '../../protocol/live';
import { NamesBook } from '../../protocol/names';
import { WatchList } from './watchList';

function made() {
  const names = new NamesBook();
  const said: Extract<FromClient, { kind: 'watchList' }>[] = [];
  const line = { isUp: true };
  const list = new WatchList(names, (message) => line.isUp && said.push(message as never) > 0);
  const learn = (...numbered: [number, string][]) => {
    names.learn({ signals: numbered, mappings: [], streams: [], outputs: [] });
    list.namesChanged();
  };
  return { names, list, learn, line, take: () => said.splice(0).map(({ what, add, remove }) => [what, add, remove]) };
}

it('tells differences, by number, once there is one', () => {
  const { list, learn, take } = made();
  learn([0, 'fog'], [1, 'bell']);
  list.want('signals', ['fog', 'lamp']);
  expect(take()).toEqual([['signals', [0], []]]);
  learn([7, 'lamp']);
  expect(take()).toEqual([['signals', [7], []]]);
  list.want('signals', ['bell', 'lamp']);
  expect(take()).toEqual([['signals', [1], [0]]]);
  list.want('signals', ['bell', 'lamp']);
  expect(take()).toEqual([]);
});

it('goes in pieces that any frame holds, however long it is and however long its ids are', () => {
  const { list, learn, take } = made();
  const ids = Array.from({ length: 5000 }, (_, i) => `${'x'.repeat(60)}${i}`);
  learn(...ids.map((id, i): [number, string] => [i, id]));
  list.want('signals', ids);
  const pieces = take();
  expect(pieces.map(([, add]) => (add as number[]).length)).toEqual([WATCH_PIECE, WATCH_PIECE, 1000]);
});

it('follows an id whose number is another now, and begins anew with another hub', () => {
  const { names, list, learn, take } = made();
  learn([0, 'fog']);
  list.want('signals', ['fog']);
  take();
  learn([0, 'mist'], [3, 'fog']);
  expect(take()).toEqual([['signals', [3], [0]]]);
  names.forget();
  list.forget();
  learn([5, 'fog']);
  expect(take()).toEqual([['signals', [5], []]]);
});

it('tells later what could not be told while the line was down', () => {
  const { list, learn, line, take } = made();
  line.isUp = false;
  learn([0, 'fog']);
  list.want('signals', ['fog']);
  line.isUp = true;
  list.namesChanged();
  expect(take()).toEqual([['signals', [0], []]]);
});
