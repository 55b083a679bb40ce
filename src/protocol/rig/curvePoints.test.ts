import fc from 'fast-check';
import { expect, it } from 'vitest';
import { shaping } from './shaping';
import { addPoint, movePoint, removePoint, type CurvePoint } from '../../core/shaping/curvePoints';

const line: CurvePoint[] = [[0, 0], [0.5, 0.5], [1, 1]];

it('moves a point between its neighbours, the ends only up and down', () => {
  expect(movePoint(line, 1, [2, 0.8], true)).toEqual([[0, 0], [1, 0.8], [1, 1]]);
  expect(movePoint(line, 0, [0.3, 0.2], true)[0]).toEqual([0, 0.2]);
  expect(movePoint(line, 2, [0.6, -3], true)[2]).toEqual([1, 0]);
  expect(movePoint(line, 2, [0.6, 1], false)[2]).toEqual([0.6, 1]);
});

it('keeps the ends, and at least two points', () => {
  expect(removePoint(line, 1, true)).toEqual([[0, 0], [1, 1]]);
  expect(removePoint(line, 2, true)).toEqual(line);
  expect(removePoint([[0, 0], [1, 1]], 1, false)).toHaveLength(2);
});

it('whatever a hand does, what comes of it is a curve that the rig takes', () => {
  const place = fc.tuple(fc.double({ min: -2, max: 2, noNaN: true }), fc.double({ min: -2, max: 2, noNaN: true }));
  const deed = fc.record({ what: fc.constantFrom('move', 'add', 'remove'), i: fc.nat(20), to: place });
  fc.assert(
    fc.property(fc.array(deed, { maxLength: 40 }), (deeds) => {
      let points = line;
      for (const { what, i, to } of deeds) {
        const at = i % points.length;
        points = what === 'move' ? movePoint(points, at, to as CurvePoint, true) : what === 'add' ? addPoint(points, to as CurvePoint) : removePoint(points, at, true);
      }
      expect(shaping.validate({ curve: { kind: 'points', points } }, { convert: false }).error).toBeUndefined();
    }),
  );
});
