import { expect, it } from 'vitest';
import type { ControlOf, RigControl, RigSurface } from '../../core/rig/document';
import { keepControls } from './keepControls';

const control = (id: string, label = id): RigControl => ({ id, kind: 'push', label, frame: { x: 0, y: 0, width: 80, height: 80 }, signals: {} });
const fold = (...controls: RigControl[]): RigControl => ({ ...control('more'), kind: 'fold', opens: 'hold', panel: { x: 10, y: 10, width: 300, height: 200 }, controls });
const surfaceOf = (...controls: RigControl[]): RigSurface => ({ id: 'deck', name: 'Deck', width: 800, height: 600, pages: [{ id: 'first', name: 'First', controls }] });
/** As it comes over the network: every object is another one. */
const fetched = (surface: RigSurface) => JSON.parse(JSON.stringify(surface)) as RigSurface;

it('keeps what did not change as the same object, in a fold-out too, whose panel stays where a hand put it', () => {
  const before = surfaceOf(control('bell'), fold(control('horn'), control('whistle')));
  const after = fetched(surfaceOf(control('bell'), fold(control('horn', 'Fog horn'), control('whistle')), control('lamp')));
  const [bell, more, lamp] = keepControls(before, after).pages[0]!.controls as [RigControl, ControlOf<'fold'>, RigControl];
  const [, wasMore] = before.pages[0]!.controls as [RigControl, ControlOf<'fold'>];
  expect([bell, more.controls[1], more.panel]).toEqual([before.pages[0]!.controls[0], wasMore.controls[1], wasMore.panel]);
  expect([bell === before.pages[0]!.controls[0], more.controls[1] === wasMore.controls[1], more.panel === wasMore.panel]).toEqual([true, true, true]);
  expect([more.controls[0]!.label, lamp.label]).toEqual(['Fog horn', 'lamp']);
  expect(keepControls(before, fetched(before)).pages[0]!.controls[1]).toBe(wasMore);
});
