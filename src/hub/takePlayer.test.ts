import { expect, it } from 'vitest';
import { hexOf } from '../core/midi/describe';
import { TakePlayer } from './takePlayer';

function played() {
  const clock = { nowMs: 1000 };
  const said: string[] = [];
  const player = new TakePlayer({
    nowMs: () => clock.nowMs,
    play: (output, bytes) => void said.push(`${output} ${hexOf(bytes)}`),
    endNotes: () => void said.push('notes end'),
    wants: (play, untilMs) => void said.push(`wants ${play} from ${untilMs}`),
    punch: (isIn) => void said.push(isIn ? 'punch in' : 'punch out'),
    changed: (tempoBpm) => void said.push(tempoBpm === null ? 'stands' : 'plays'),
  });
  const due = (dueMs: number, ...bytes: number[]) => ({ dueMs, output: 'weather', bytes: Uint8Array.from(bytes), ofVoice: false });
  const take = () => said.splice(0);
  return { player, clock, due, take };
}
const STATE = { take: 't', version: 'v', name: 'Crossing', fromMs: 500, speed: 1, loop: null, punch: null, lengthMs: 9000 };

it('plays each message when it is due, asks for more in time, and stops by itself after the last', () => {
  const { player, clock, due, take } = played();
  player.begin(1, STATE, 120);
  player.more(1, [due(0, 0xb0, 7, 100), due(20, 0x90, 60, 90)], 8000, false);
  expect(player.dueMs).toBe(1000);
  player.tick();
  expect(take()).toEqual(['plays', 'weather B0 07 64']);
  expect(player.dueMs).toBe(1020);
  clock.nowMs = 1021;
  player.tick();
  expect(take()).toEqual(['weather 90 3C 5A']);
  clock.nowMs = 5001;
  player.tick();
  player.tick();
  expect(take()).toEqual(['wants 1 from 8000']);
  player.more(1, [due(8100, 0x80, 60, 64)], 16000, true);
  clock.nowMs = 9200;
  player.tick();
  expect(take()).toEqual(['weather 80 3C 40', 'notes end', 'stands']);
  expect(player.state).toBeNull();
});
it('a bend that is left is centred, a pedal that is left is lifted, and what came of an earlier play is not taken', () => {
  const { player, due, take } = played();
  player.begin(1, STATE, 120);
  player.more(1, [due(0, 0xe3, 0, 100), due(0, 0xb3, 64, 127), due(0, 0xe4, 0, 100), due(0, 0xe4, 0, 64)], 1000, false);
  player.tick();
  take();
  player.begin(2, STATE, 120);
  expect(take()).toEqual(['notes end', 'weather B3 40 00', 'weather E3 00 40', 'plays']);
  player.more(1, [due(0, 0x90, 1, 1)], 1000, false);
  player.tick();
  expect(take()).toEqual(['wants 2 from 0']);
  player.stop();
  player.stop();
  expect(take()).toEqual(['notes end', 'stands']);
});
it('records between two places of what plays, and not beyond its end', () => {
  const { player, clock, due, take } = played();
  player.begin(1, { ...STATE, fromMs: 500, punch: { fromMs: 600, toMs: 700 } }, 120);
  player.more(1, [due(5000, 0x90, 60, 90)], 9000, true);
  take();
  for (const nowMs of [1050, 1100, 1150, 1201, 1300]) {
    clock.nowMs = nowMs;
    player.tick();
    take().forEach((words) => expect([nowMs, words]).toEqual(nowMs === 1100 ? [1100, 'punch in'] : [1201, 'punch out']));
  }
  player.begin(2, { ...STATE, fromMs: 500, punch: { fromMs: 500, toMs: 9000 } }, 120);
  player.tick();
  player.stop();
  expect(take().filter((words) => words.startsWith('punch'))).toEqual(['punch in', 'punch out']);
});
it('records on where only what is heard of it is set anew, and anew where it is played from elsewhere', () => {
  const { player, clock, take } = played();
  const begin = (play: number, set: Partial<typeof STATE>) => player.begin(play, { ...STATE, punch: { fromMs: 600, toMs: 5000 }, ...set }, 120);
  const punches = () => take().filter((words) => words.startsWith('punch'));
  begin(1, { fromMs: 600 });
  player.tick();
  clock.nowMs = 1200;
  begin(2, { fromMs: 800 });
  player.tick();
  expect(punches()).toEqual(['punch in']);
  for (const set of [{ fromMs: 500 }, { fromMs: 900, speed: 0.5 }, { fromMs: 900, version: 'w' }]) {
    begin(3, { fromMs: 800 });
    player.tick();
    take();
    begin(4, set);
    expect(punches()).toEqual(['punch out']);
  }
  begin(5, { fromMs: 800 });
  player.tick();
  take();
  clock.nowMs += 4300;
  player.tick();
  expect(punches()).toEqual(['punch out']);
});
it('records to the end of the place also where the take has nothing more to play', () => {
  const { player, clock, due, take } = played();
  player.begin(1, { ...STATE, fromMs: 0, punch: { fromMs: 2000, toMs: 8000 } }, 120);
  player.more(1, [due(100, 0x90, 60, 90), due(200, 0x80, 60, 64)], 8000, true);
  const when: [number, string][] = [];
  for (clock.nowMs = 1000; clock.nowMs < 11_000; clock.nowMs += 50) {
    player.tick();
    take().forEach((words) => when.push([clock.nowMs - 1000, words]));
  }
  expect(when.filter(([, words]) => !words.startsWith('weather'))).toEqual([
    [0, 'plays'],
    [2000, 'punch in'],
    [8000, 'punch out'],
    [8000, 'notes end'],
    [8000, 'stands'],
  ]);
});
it('ends what sounds when nothing more is handed over, as when whoever did is gone', () => {
  const { player, clock, due, take } = played();
  player.begin(1, STATE, 120);
  player.more(1, [due(0, 0x90, 60, 90)], 8000, false);
  player.tick();
  clock.nowMs = 10_400;
  player.tick();
  expect(player.plays).toBe(true);
  clock.nowMs = 10_600;
  take();
  player.tick();
  expect(take()).toEqual(['notes end', 'stands']);
});
