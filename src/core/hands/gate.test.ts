import { expect, it } from 'vitest';
import { MeasureGate } from './gate';

const FIST = { on: 1.1, off: 1.3, leastMs: 40 };
/** When a gate that is looked at every so many ms goes on and off. */
function turns(rule: typeof FIST, everyMs: number, measures: readonly number[]): string[] {
  const gate = new MeasureGate(rule);
  let before = false;
  return measures.flatMap((measure, i) => {
    const now = gate.look(measure, i * everyMs);
    if (now === before) return [];
    before = now;
    return [`${now ? 'on' : 'off'} ${i * everyMs}`];
  });
}

it('goes on below one limit and off above another, and flutters not between them', () => {
  expect(turns(FIST, 50, [1.8, 1.2, 1.05, 1.05, 1.2, 1.15, 1.25, 1.35, 1.35, 1.2])).toEqual(['on 150', 'off 400']);
});

it('on may lie above off: then it is on above', () => {
  expect(turns({ on: 1.6, off: 1.45, leastMs: 40 }, 50, [1, 1.5, 1.7, 1.7, 1.5, 1.4, 1.4])).toEqual(['on 150', 'off 300']);
});

it('does not mind one bad picture, nor one of which nothing can be said', () => {
  expect(turns(FIST, 33, [1.8, 0.8, 1.8, 1.8, NaN, 0.8, NaN, 1.8])).toEqual([]);
});

it('believes one picture where they come so slowly that the next would be late', () => {
  expect(turns(FIST, 200, [1.8, 0.8, 1.8])).toEqual(['on 200', 'off 400']);
});

it('that was dropped begins anew', () => {
  const gate = new MeasureGate(FIST);
  gate.look(0.8, 0);
  expect(gate.look(0.8, 50)).toBe(true);
  gate.drop();
  expect(gate.isOn).toBe(false);
  expect(gate.look(0.8, 1000)).toBe(false);
});
