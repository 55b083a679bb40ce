import { describe, expect, it } from 'vitest';
import { StreamParser } from './streamParser';
import { MidiSources } from './sources';

function listen() {
  const heard: string[] = [];
  let timeMs = 0;
  const sources = new MidiSources(({ key }, _timeMs, value) => heard.push(`${key} = ${Number(value.toFixed(3))}`));
  const parser = new StreamParser((message) => sources.message(message, timeMs));
  return {
    heard,
    sources,
    at(ms: number, ...bytes: number[]) {
      timeMs = ms;
      sources.settle(ms);
      parser.push(bytes);
    },
  };
}

describe('controllers of 14 bits (MIDI 1.0: 0-31 coarse, 32 higher fine)', () => {
  it('are one value when both halves come', () => {
    const it = listen();
    it.at(0, 0xb0, 1, 64, 33, 5);
    expect(it.heard).toEqual([`cc14 1 1 = ${64 * 128 + 5}`]);
  });
  it('move on by the fine half alone', () => {
    const it = listen();
    it.at(0, 0xb0, 1, 64, 33, 5);
    it.at(50, 0xb0, 33, 9);
    expect(it.heard.at(-1)).toBe(`cc14 1 1 = ${64 * 128 + 9}`);
  });
  it('a coarse half without its partner is a whole controller, after a moment', () => {
    const it = listen();
    it.at(0, 0xb0, 7, 100);
    expect(it.heard).toEqual([]);
    expect(it.sources.settle(5)).toBe(true);
    expect(it.sources.settle(10)).toBe(false);
    expect(it.heard).toEqual(['cc 1 7 = 100']);
  });
  it('a controller that was always alone waits no more', () => {
    const it = listen();
    for (let i = 0; i < 3; i++) it.at(i * 20, 0xb0, 7, i);
    it.at(100, 0xb0, 7, 3);
    it.at(120, 0xb0, 7, 4);
    expect(it.heard.at(-1)).toBe('cc 1 7 = 4');
  });
  it('a fine number that no coarse one went before is a controller of its own', () => {
    const it = listen();
    it.at(0, 0xb0, 40, 3);
    expect(it.heard).toEqual(['cc 1 40 = 3']);
  });
});

describe('parameters (99/98 and 101/100, data entry 6 and 38)', () => {
  it('NRPN 1234 of two halves', () => {
    const it = listen();
    it.at(0, 0xb2, 99, 1234 >> 7, 98, 1234 & 127, 6, 10, 38, 20);
    expect(it.heard).toEqual([`nrpn 3 1234 = ${10 * 128 + 20}`]);
  });
  it('RPN 0 with the coarse half alone', () => {
    const it = listen();
    it.at(0, 0xb0, 101, 0, 100, 0, 6, 12);
    it.sources.settle(20);
    expect(it.heard).toEqual([`rpn 1 0 = ${12 * 128}`]);
  });
  it.each([
    ['an NRPN of two halves by its finest step', [99, 9, 98, 82, 6, 10, 38, 127], [96, 96, 97], 'nrpn 1 1234', [10 * 128 + 127, 11 * 128, 11 * 128 + 1, 11 * 128]],
    ['an NRPN of one half by that', [99, 9, 98, 82, 6, 10], [96, 97, 97], 'nrpn 1 1234', [10 * 128, 11 * 128, 10 * 128, 9 * 128]],
    ['bend range by a cent, of which a semitone has a hundred', [101, 0, 100, 0, 6, 2, 38, 99], [96, 97], 'rpn 1 0', [2 * 128 + 99, 3 * 128, 2 * 128 + 99]],
    ['fine tuning by its finest step', [101, 0, 100, 1, 6, 64], [97], 'rpn 1 1', [64 * 128, 64 * 128 - 1]],
    ['coarse tuning by a semitone', [101, 0, 100, 2, 6, 64, 38, 0], [96], 'rpn 1 2', [64 * 128, 65 * 128]],
    ['no further than the ends', [99, 9, 98, 82, 6, 127, 38, 127], [96, 97], 'nrpn 1 1234', [16383, 16383, 16382]],
    ['from nothing where no value came', [99, 9, 98, 82], [97, 96, 96], 'nrpn 1 1234', [0, 128, 256]],
  ])('increment and decrement move what is selected (MIDI 1.0, table III; which half: MMA RP-018, from memory): %s', (_, entered, steps, key, values) => {
    const it = listen();
    const pairs = (controllers: number[]) => controllers.flatMap((controller, i) => (i % 2 === 0 ? [[controller, controllers[i + 1]!]] : []));
    for (const pair of pairs(entered)) it.at(0, 0xb0, ...pair);
    // Their value says nothing.
    steps.forEach((step, i) => it.at(1 + i, 0xb0, step, i % 2 === 0 ? 0 : 127));
    it.sources.settle(100);
    expect(it.heard).toEqual(values.map((value) => `${key} = ${value}`));
  });
  it('where no parameter is selected, increment and decrement are plain controllers', () => {
    const it = listen();
    it.at(0, 0xb0, 96, 127, 97, 0);
    expect(it.heard).toEqual(['cc 1 96 = 127', 'cc 1 97 = 0']);
  });
  it('after the null function data entry is a plain controller again', () => {
    const it = listen();
    it.at(0, 0xb0, 101, 127, 100, 127, 6, 12);
    it.sources.settle(20);
    expect(it.heard).toEqual(['cc 1 6 = 12']);
  });
});

it('notes are gates with the velocity as strength; velocity 0 is the end', () => {
  const it = listen();
  it.at(0, 0x91, 60, 127, 60, 0);
  expect(it.heard).toEqual(['number 2 = 60', 'note 2 60 = 1', 'note 2 60 = 0']);
});

describe('channel mode messages', () => {
  it.each([120, 123, 124, 125, 126, 127])('%i lets go of every key of its channel that is held, and of no other (MIDI 1.0, table IV)', (controller) => {
    const it = listen();
    it.at(0, 0x90, 60, 1, 0x90, 64, 1, 0x91, 60, 1, 0x80, 64, 0, 0x9a, 60, 1);
    it.heard.length = 0;
    it.at(9, 0xb0, controller, 0);
    expect(it.heard).toEqual(['note 1 60 = 0', `cc 1 ${controller} = 0`]);
    it.at(12, 0xb0, controller, 0);
    expect(it.heard.length).toBe(3);
  });
  it('121 puts back bends, pressures, modulation, expression and pedals of its channel, and nothing else (MMA RP-015)', () => {
    const it = listen();
    it.at(0, 0xe0, 0, 96, 0xd0, 9, 0xa0, 60, 7, 0xb0, 64, 127, 66, 127, 69, 127, 74, 5, 0xb1, 64, 127);
    for (const controller of [1, 7, 11]) it.at(0, 0xb0, controller, 30, controller + 32, 0);
    it.heard.length = 0;
    it.at(50, 0xb0, 121, 0);
    expect(it.heard).toEqual(['bend 1 = 0', 'pressure 1 = 0', 'poly 1 60 = 0', 'cc 1 64 = 0', 'cc 1 66 = 0', 'cc14 1 1 = 0', 'cc14 1 11 = 16383', 'cc 1 121 = 0']);
    it.at(60, 0xb0, 43, 1);
    expect(it.heard.at(-1)).toBe(`cc14 1 11 = ${127 * 128 + 1}`);
  });
  it('121 selects no parameter: data entry is a plain controller again', () => {
    const it = listen();
    it.at(0, 0xb0, 99, 1, 98, 2, 121, 0, 6, 5);
    it.sources.settle(20);
    expect(it.heard).toEqual(['cc 1 121 = 0', 'cc 1 6 = 5']);
  });
  it('half a selection after one of the other kind selects nothing', () => {
    const it = listen();
    it.at(0, 0xb0, 101, 0, 100, 0, 99, 5, 6, 5);
    it.sources.settle(20);
    expect(it.heard).toEqual(['cc 1 6 = 5']);
  });
  it('where the device went, bends, pressures and pedals are let go of, and nothing that stays where it is put', () => {
    const it = listen();
    it.at(0, 0xe0, 0, 96, 0xd0, 9, 0xa0, 60, 7, 0xb0, 64, 127, 69, 127, 67, 5, 66, 0, 7, 90, 11, 90, 74, 90);
    it.sources.settle(50);
    it.heard.length = 0;
    it.sources.letGo(60);
    expect(it.heard).toEqual(['bend 1 = 0', 'pressure 1 = 0', 'poly 1 60 = 0', 'cc 1 64 = 0', 'cc 1 69 = 0', 'cc 1 67 = 0']);
    it.sources.letGo(70);
    expect(it.heard).toHaveLength(6);
  });
  it('a reset of the system does both on every channel', () => {
    const it = listen();
    it.at(0, 0x95, 60, 127, 0xef, 0, 0);
    it.heard.length = 0;
    it.at(5, 0xff);
    expect(it.heard).toEqual(['note 6 60 = 0', 'bend 16 = 0']);
  });
});

it.each([
  [[0xe0, 0, 64], 'bend 1 = 0'],
  [[0xe0, 0, 0], 'bend 1 = -1'],
  [[0xe0, 127, 127], 'bend 1 = 1'],
  [[0xd0, 90], 'pressure 1 = 90'],
  [[0xa0, 60, 33], 'poly 1 60 = 33'],
  [[0xc4, 9], 'program 5 = 10'],
  [[0xfa], 'running = 1'],
  [[0xfc], 'running = 0'],
])('%j is %s', (bytes, expected) => {
  const it = listen();
  it.at(0, ...bytes);
  expect(it.heard).toEqual([expected]);
});

it('24 clocks a beat: one every 20.833 ms is 120 beats a minute (MIDI 1.0)', () => {
  const it = listen();
  for (let i = 0; i < 200; i++) it.at(i * 20.8333, 0xf8);
  expect(Number(it.heard.at(-1)!.split('= ')[1])).toBeCloseTo(120, 1);
});
