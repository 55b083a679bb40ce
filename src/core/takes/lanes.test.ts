import { expect, it } from 'vitest';
import { lanesOf, placeOf, type CurveLane, type NoteLane } from './lanes';
import { columnsOf, ScoreTable } from './scoreTable';
import { ScoreWriter } from './score';

function scoreOf(messages: [atMs: number, mapping: string, ...bytes: number[]][]) {
  const writer = new ScoreWriter();
  const pieces: Uint8Array[] = [];
  for (const [atMs, mapping, ...bytes] of messages) {
    writer.message(atMs, { output: 'hull', who: 'voice', mapping }, bytes);
    pieces.push(writer.take());
  }
  return columnsOf(pieces);
}

it('a score in columns gives its messages back', () => {
  const table = new ScoreTable(scoreOf([[0, 'ribs', 0x90, 60, 1], [0.5, 'fog', 0xf0, 1, 2, 3, 0xf7], [1000.25, 'ribs', 0xc0, 4]]));
  expect(table.length).toBe(3);
  expect(table.at(1)).toEqual({ atMs: 0.5, source: { output: 'hull', who: 'voice', mapping: 'fog' }, bytes: Uint8Array.of(0xf0, 1, 2, 3, 0xf7) });
  expect(table.at(2)!.atMs).toBe(1000.25);
  expect(table.at(3)).toBeUndefined();
});
it('notes are drawn as they sound: a bend of its channel moves a note, at the bend range of its output', () => {
  const [notes, bend] = lanesOf(scoreOf([[0, 'ribs', 0xe1, 0, 64], [0, 'ribs', 0x91, 60, 90], [10, 'ribs', 0x92, 70, 80], [20, 'ribs', 0xe1, 0, 96], [25, 'ribs', 0xd1, 33], [30, 'ribs', 0x81, 60, 0], [40, 'ribs', 0xe1, 0, 64]]), () => 48, 100) as [NoteLane, CurveLane];
  expect([...notes.fromMs]).toEqual([0, 10]);
  // Nothing ends the second: it sounds until the end.
  expect([...notes.toMs]).toEqual([30, 100]);
  expect([...notes.moves]).toEqual([0, 3, 4]);
  expect([...notes.moveMs]).toEqual([0, 20, 25, 10]);
  // Half of a full bend of 48 semitones.
  expect([...notes.movePitch]).toEqual([60, 84, 84, 70]);
  expect([...notes.movePressure]).toEqual([0, 0, 33, 0]);
  expect(bend).toMatchObject({ kind: 'curve', channel: 2, most: 16383 });
  expect([...bend.value]).toEqual([8192, 12288, 8192]);
});
it('the halves of 14 bits are one curve, others are their own', () => {
  const curves = lanesOf(scoreOf([[0, 'fog', 0xb0, 20, 1], [0, 'fog', 0xb0, 52, 5], [5, 'fog', 0xb0, 52, 9], [5, 'fog', 0xb0, 74, 3]]), () => 2, 10) as CurveLane[];
  expect(curves.map(({ number, most, atMs, value }) => [number, most, [...atMs], [...value]])).toEqual([
    [20, 16383, [0, 5], [133, 137]],
    [74, 127, [5], [3]],
  ]);
});
it('a controller of the number of a lower half that comes without the upper one, or from another, is its own', () => {
  const curves = lanesOf(scoreOf([[0, 'fog', 0xb0, 39, 5], [5, 'swell', 0xb0, 8, 1], [5, 'fog', 0xb0, 40, 9], [9, 'fog', 0xb0, 39, 3]]), () => 2, 10) as CurveLane[];
  expect(curves.map(({ number, most, value }) => [number, most, [...value]])).toEqual([
    [39, 127, [5, 3]],
    [8, 127, [1]],
    [40, 127, [9]],
  ]);
});
it('finds a place in rising times', () => {
  expect([-1, 0, 1, 5, 9, 10].map((atMs) => placeOf(Float64Array.of(0, 5, 5, 9), atMs))).toEqual([0, 0, 1, 1, 3, 4]);
});
