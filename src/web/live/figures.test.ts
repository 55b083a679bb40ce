import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { addFigure } from './figures';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('figures are written together ten times a second however often they change, those out of view once, and none that is gone', () => {
  const written = { near: 0, far: 0, gone: 0 };
  const [near, far, gone] = [addFigure(() => written.near++), addFigure(() => written.far++, false), addFigure(() => written.gone++)];
  gone.remove();
  for (let ms = 0; ms < 3000; ms += 5) {
    near.changed();
    far.changed();
    vi.advanceTimersByTime(5);
  }
  expect(written).toEqual({ near: 30, far: 3, gone: 0 });
  // What stands still is written no more.
  vi.advanceTimersByTime(1000);
  const last = { ...written };
  vi.advanceTimersByTime(5000);
  expect(written).toEqual(last);
});
