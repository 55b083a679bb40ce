import { expect, it } from 'vitest';
import { TimeView } from './timeView';

it('shows all, comes closer about a point, and never leaves the take', () => {
  const view = new TimeView(60_000);
  view.setWidth(1000);
  expect([view.fromMs, view.toMs, view.msPerPx]).toEqual([0, 60_000, 60]);
  view.closer(2, 250);
  expect([view.fromMs, view.toMs]).toEqual([7500, 37_500]);
  expect(view.timeAt(250)).toBe(15_000);
  view.along(-10_000);
  expect(view.fromMs).toBe(0);
  view.along(1e9);
  expect([view.fromMs, view.toMs]).toEqual([30_000, 60_000]);
  view.closer(0.001);
  expect([view.fromMs, view.toMs]).toEqual([0, 60_000]);
  view.closer(1e9, 0);
  expect(view.msPerPx).toBe(0.5);
});
it('is held by two fingers: each keeps its time, and both together move it along', () => {
  const view = new TimeView(60_000);
  view.setWidth(1000);
  view.closer(4);
  const [left, right] = [view.timeAt(300), view.timeAt(700)];
  view.pull(700, 900, 300);
  expect([view.placeOf(left), view.placeOf(right)].map(Math.round)).toEqual([300, 900]);
  view.pull(300, 100, 900);
  expect([view.placeOf(left), view.placeOf(right)].map(Math.round)).toEqual([100, 900]);
  // By 50 px to the right, one finger after the other as a browser tells them.
  for (let i = 0; i < 50; i++) {
    view.pull(100 + i, 101 + i, 900 + i);
    view.pull(900 + i, 901 + i, 101 + i);
  }
  expect([view.placeOf(left), view.placeOf(right)].map(Math.round)).toEqual([150, 950]);
});
it('turns on with a time that runs out of it', () => {
  const view = new TimeView(60_000);
  view.setWidth(1000);
  view.closer(6, 0);
  view.follow(5000);
  expect(view.fromMs).toBe(0);
  view.follow(10_500);
  expect(view.fromMs).toBe(9500);
});

it('tells whoever draws it of a change alone: they say how wide it is whenever they draw', () => {
  const view = new TimeView(60_000);
  let told = 0;
  view.listen(() => told++);
  view.setWidth(1000);
  view.setWidth(1000);
  expect(told).toBe(1);
  view.setWidth(900);
  expect(told).toBe(2);
});
