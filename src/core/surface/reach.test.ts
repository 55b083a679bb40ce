import { expect, it } from 'vitest';
import type { RigControl, RigPage } from '../rig/document';
import { reachesAllPages } from './reach';

const page = (id: string, ...tabs: (string | null)[]): RigPage => ({
  id,
  name: id,
  controls: tabs.map((to, i): RigControl => ({ id: `${id}${i}`, kind: 'page', page: to, label: '', frame: { x: 0, y: 0, width: 60, height: 60 }, signals: {} })),
});

it.each<[string, RigPage[], boolean]>([
  ['one page', [page('a')], true],
  ['two without tabs', [page('a'), page('b')], false],
  ['two with a way there and none back', [page('a', 'b'), page('b')], false],
  ['two with both ways', [page('a', 'b'), page('b', 'a')], true],
  ['three in a ring', [page('a', 'b'), page('b', 'c'), page('c', 'a')], true],
  ['a tab that leads nowhere', [page('a', null, 'gone'), page('b', 'a')], false],
])('%s', (_, pages, reached) => expect(reachesAllPages({ pages })).toBe(reached));
