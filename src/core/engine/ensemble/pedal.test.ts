import { expect, it } from 'vitest';
import { crew, member, playCrew, swell } from './testCrew';

/** A crew of chords that last while something is held; the sustain pedal of the stream by its value. */
function chords() {
  const played = playCrew(crew(member(swell)));
  const stream = played.engine.plan.streamIndex.get('hull')!;
  return { ...played, pedal: (timeMs: number, value: number, controller = 64) => void played.engine.take({ kind: 'pedal', timeMs, stream, controller, value }) };
}
const ends = (heard: [number, number, number, number][]) => heard.filter(([, , , velocity]) => velocity === 0).map(([ms, , key]) => `${ms} ${key}`);

it('under the sustain pedal a chord goes on when its key is lifted, and ends with the pedal', () => {
  const { press, lift, pedal, heard } = chords();
  press(0, 60);
  pedal(10, 127);
  lift(20, 60);
  expect(ends(heard())).toEqual([]);
  // Half way is up (MIDI 1.0: 0 to 63 off, 64 to 127 on).
  pedal(30, 64);
  expect(ends(heard())).toEqual([]);
  pedal(40, 63);
  expect(ends(heard()).sort()).toEqual(['40 60', '40 64', '40 67']);
});
it('a key that is still held stays when the pedal is lifted, other pedals hold nothing, and a stream that goes takes its pedal along', () => {
  const { press, lift, pedal, heard, engine } = chords();
  press(0, 60);
  pedal(10, 127);
  pedal(20, 0);
  expect(ends(heard())).toEqual([]);
  pedal(30, 127, 66);
  lift(40, 60);
  expect(ends(heard())).toHaveLength(3);
  pedal(50, 127);
  press(60, 62);
  lift(70, 62);
  expect(ends(heard())).toEqual([]);
  engine.take({ kind: 'endStream', timeMs: 80, stream: engine.plan.streamIndex.get('hull')! });
  expect(ends(heard())).toHaveLength(3);
  press(90, 60);
  lift(100, 60);
  expect(ends(heard()).filter((line) => line.startsWith('100'))).toHaveLength(3);
});
it('with as many under the pedal as are followed, a new key is heard and the oldest makes room', () => {
  const { press, lift, pedal, heard, engine } = chords();
  pedal(0, 127);
  for (let i = 0; i < 64; i++) {
    press(i, 30 + i / 2, 1, i);
    lift(i, i);
  }
  heard();
  press(1000, 67, 1, 500);
  expect(engine.ensemble.shown()[0]!.pitches.map((pitch) => pitch % 12).sort((a, b) => a - b)).toEqual([2, 7, 11]);
});
it('the same key again under the pedal is one voice, whatever number it has', () => {
  const { press, lift, pedal, engine } = chords();
  pedal(0, 127);
  for (let i = 1; i <= 100; i++) {
    press(i * 10, 60, 1, i);
    lift(i * 10 + 5, i);
  }
  pedal(2000, 0);
  press(2010, 62, 1, 7);
  expect(engine.ensemble.shown()[0]!.pitches.map((pitch) => pitch % 12).sort((a, b) => a - b)).toEqual([2, 5, 9]);
});
