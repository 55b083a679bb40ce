import { expect, it } from 'vitest';
import { ClickTrack, type Clicked } from './clickTrack';

/** A sound card that is asked to click at the looks of a page, and forgets what is taken back. */
function heardOf(looks: readonly [nowMs: number, clicked: Clicked][]): number[] {
  const track = new ClickTrack();
  let given: { at: number; soundsMs: number }[] = [];
  for (const [nowMs, clicked] of looks) {
    const { takesBack, give } = track.look(nowMs, clicked);
    if (takesBack) given = given.filter(({ soundsMs }) => soundsMs <= nowMs);
    given.push(...give.map(({ atMs }) => ({ at: atMs, soundsMs: Math.max(atMs, nowMs) })));
  }
  return given.map(({ soundsMs }) => soundsMs);
}
const every = (stepMs: number, fromMs: number, toMs: number, clicked: Clicked): [number, Clicked][] =>
  Array.from({ length: Math.floor((toMs - fromMs) / stepMs) }, (_, i) => [fromMs + i * stepMs, clicked]);
const at = (bpm: number, anchorMs = 0, untilBeat = Infinity): Clicked => ({ time: { anchorMs, anchorBeat: 0, bpm }, meter: [4, 4], untilBeat });
const upTo = (ms: number, heard: number[]) => heard.filter((atMs) => atMs < ms);

it('is the same however seldom it is looked at, up to once a second', () => {
  const beats = Array.from({ length: 20 }, (_, i) => 500 * i);
  for (const stepMs of [10, 40, 333, 1000]) expect(upTo(10_000, heardOf(every(stepMs, 0, 10_000, at(120)))), `every ${stepMs} ms`).toEqual(beats);
});
it('clicks the first beat though it is heard of a little late, and not one that is long past', () => {
  expect(heardOf([[80, at(60)]]).slice(0, 2)).toEqual([80, 1000]);
  expect(heardOf([[300, at(60)]])).toEqual([1000]);
});
it('leaves out what it was too late for, and makes nothing up', () => {
  expect(upTo(6000, heardOf([[0, at(120)], [4100, at(120)]]))).toEqual([0, 500, 1000, 4500, 5000, 5500]);
});
it('takes back what another tempo moves, and goes on with that', () => {
  // At 750 ms it is beat 1.5; from there a beat takes a second.
  const slower: Clicked = { ...at(60), time: { anchorMs: 750, anchorBeat: 1.5, bpm: 60 } };
  expect(upTo(4000, heardOf([...every(50, 0, 750, at(120)), ...every(50, 750, 4000, slower)]))).toEqual([0, 500, 1250, 2250, 3250]);
});
it('a nudge by a few milliseconds clicks no beat twice', () => {
  const nudged: Clicked = { ...at(120), time: { anchorMs: 1020, anchorBeat: 2, bpm: 120 } };
  for (const stepMs of [1, 10, 50]) expect(upTo(2000, heardOf([...every(stepMs, 0, 1010, at(120)), ...every(stepMs, 1010, 2000, nudged)])), `every ${stepMs} ms`).toEqual([0, 500, 1000, 1520]);
});
it('ends before the beat that it is said to end at, also when that is said later', () => {
  expect(heardOf(every(100, 0, 5000, at(120, 0, 4)))).toEqual([0, 500, 1000, 1500]);
  expect(heardOf([...every(100, 0, 600, at(120)), ...every(100, 600, 5000, at(120, 0, 2))])).toEqual([0, 500]);
});
it('goes on where a take begins after a bar that was counted: nothing is taken back, no beat twice', () => {
  const track = new ClickTrack();
  const give = [...every(50, 0, 2000, at(120)), ...every(50, 2000, 4000, at(120, 2000))].flatMap(([nowMs, clicked]) => {
    const look = track.look(nowMs, clicked);
    expect(look.takesBack).toBe(false);
    return look.give;
  });
  expect(upTo(4000, give.map(({ atMs }) => atMs))).toEqual([0, 500, 1000, 1500, 2000, 2500, 3000, 3500]);
});
