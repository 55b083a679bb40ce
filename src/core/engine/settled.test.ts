import { describe, expect, it } from 'vitest';
import type { Curve, MessageSpec, RigDocument, RigMapping, Smoothing } from '../rig/document';
import { monotoneSegments, pointsCurve, SEGMENT } from '../shaping/curve';
import { play, playing } from './testPlay';
import { testRig } from './testRig';

/** The rules of the section "Settled" in the design of the engine, each from its sentence or from its closed form. */

const cc = (controller = 20, channel = 1): MessageSpec => ({ kind: 'controlChange', channel, controller, range: [0, 127] });
const note = (key = 62): RigMapping['message'] => ({ kind: 'note', channel: 1, note: key, velocity: 100 });

/** A rig whose signals are these, with a range each. */
function withSignals(signals: (Partial<RigDocument['signals'][number]> & { id: string })[], mappings: Partial<RigMapping>[]): RigDocument {
  const rig = testRig(mappings);
  rig.signals.push(...signals.map((more) => ({ name: more.id, input: 'deck', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], ...more })));
  return rig;
}

type Player = ReturnType<typeof play>;
/** `x 0:.15, y 10:.9`, with the ticks of the hub between where they are wanted. */
function perform({ move, run }: Player, script: string, ticks = false): void {
  let lastMs = 0;
  for (const step of script.split(',')) {
    const [, signal, timeMs, value] = /^\s*(\S+) ([\d.]+):(-?[\d.]+)\s*$/.exec(step)!;
    if (ticks) run(Math.ceil((lastMs + 0.001) / 4) * 4, Number(timeMs) - 0.001);
    move(signal!, Number(timeMs), Number(value));
    lastMs = Number(timeMs);
  }
}
const values = ({ sent }: Player, controller = 20) => sent.filter(({ bytes }) => (bytes[0]! & 0xf0) === 0xb0 && bytes[1] === controller).map(({ bytes }) => bytes[2]);
const last = (player: Player, controller = 20) => values(player, controller).at(-1);

describe('a round dead zone', () => {
  const pair = (xRange: [number, number], yRange: [number, number], more: Partial<RigMapping['shaping']> = {}) =>
    play(
      withSignals(
        [
          { id: 'x', pair: 'y', range: xRange },
          { id: 'y', pair: 'x', range: yRange },
        ],
        [
          { signal: 'x', message: cc(20), shaping: { deadZone: { kind: 'centre', inner: 0.2, outer: 1 }, ...more } },
          { signal: 'y', message: cc(21), shaping: { deadZone: { kind: 'centre', inner: 0.2, outer: 1 } } },
        ],
      ),
    );
  it('hears the other axis move: both are computed again', () => {
    const player = pair([-1, 1], [-1, 1]);
    perform(player, 'x 0:.15, y 0:0, y 10:.9, x 20:.15, y 30:0');
    expect(last(player)).toBe(64);
    const held = pair([-1, 1], [-1, 1]);
    perform(held, 'x 0:.15, y 0:0, y 10:.9');
    // r = 0.9124; (r - 0.2) / 0.8 along the same direction: 0.15 / r of it.
    expect(last(held)).toBe(Math.round(127 * (0.5 + (0.15 / 0.91241) * ((0.91241 - 0.2) / 0.8) / 2)));
  });
  it('measures each axis on its own range: the middle of 0..1080 beside 0..1920 is the middle', () => {
    const player = pair([0, 1920], [0, 1080]);
    perform(player, 'x 0:1000, y 0:540');
    expect([last(player), last(player, 21)]).toEqual([64, 64]);
  });
  it('acts on the nominal range, and the range in is taken of what is left', () => {
    const player = pair([-1, 1], [-1, 1], { rangeIn: { lo: 0, hi: 1 } });
    perform(player, 'y 0:0, x 0:.6');
    // (0.6 - 0.2) / 0.8 = 0.5 of the nominal way, which is half of 0..1.
    expect(last(player)).toBe(64);
    perform(player, 'x 10:.1');
    expect(last(player)).toBe(0);
  });
  it('gives the median one number for each time', () => {
    const medians = pair([-1, 1], [-1, 1], { deglitch: { median: 3 } });
    perform(medians, 'x 0:0, y 0:0, x 10:0, y 10:0, x 20:1, y 20:1, x 30:0, y 30:0, x 40:0, y 40:0');
    expect(values(medians)).toEqual([64]);
  });
  it('smooths the same whichever axis of a time came first', () => {
    const smoothed = (script: string) => {
      const player = pair([-1, 1], [-1, 1], { smoothing: { kind: 'onePole', timeConstantMs: 30 } });
      perform(player, script);
      return player.engine.levels[0];
    };
    expect(smoothed('x 0:.15, y 0:0, x 20:.3, y 20:.9')).toBeCloseTo(smoothed('x 0:.15, y 0:0, y 20:.9, x 20:.3')!, 12);
  });
});

describe('attack and release', () => {
  const smoothing: Smoothing = { kind: 'attackRelease', attackMs: 300, releaseMs: 5 };
  it('go the way that the output has to go at each moment, also inside a segment that crosses it', () => {
    const player = playing({ message: cc(), shaping: { smoothing } });
    const heard: number[] = [];
    for (const [timeMs, value] of [[0, 0], [10, 1], [20, 1], [36.7, 0]] as const) {
      player.move('fog', timeMs, value);
      heard.push(player.engine.levels[0]! * 127);
    }
    // Closed form: e = x - y obeys e' = s - e / tau; it is 0 at tau ln(1 - e0 / (s tau)).
    const [tau, release, s] = [300, 5, -1 / 16.7];
    const rise = 1 - 30 * (1 - Math.exp(-10 / 300));
    const y20 = 1 - (1 - rise) * Math.exp(-10 / tau);
    const crossMs = tau * Math.log(1 - (1 - y20) / (s * tau));
    const yCross = 1 + s * crossMs;
    const leftMs = 16.7 - crossMs;
    const end = yCross + s * leftMs - s * release * (1 - Math.exp(-leftMs / release));
    expect(heard[1]).toBeCloseTo(rise * 127, 9);
    expect(heard[2]).toBeCloseTo(y20 * 127, 9);
    expect(heard[3]).toBeCloseTo(end * 127, 9);
    expect(Math.max(...heard)).toBeLessThan(9);
  });
  it('agree with the same motion sampled ten times as densely', () => {
    const levelAt = (parts: number) => {
      const player = playing({ message: cc(), shaping: { smoothing } });
      const corners = [[0, 0], [10, 1], [20, 1], [36.7, 0], [60, 0.8], [90, 0.1]] as const;
      player.move('fog', 0, 0);
      return corners.slice(1).map(([toMs, to], c) => {
        const [fromMs, from] = corners[c]!;
        for (let i = 1; i <= parts; i++) player.move('fog', fromMs + ((toMs - fromMs) * i) / parts, from + ((to - from) * i) / parts);
        return player.engine.levels[0]!;
      });
    };
    const [coarse, fine] = [levelAt(1), levelAt(10)];
    coarse.forEach((level, i) => expect(level).toBeCloseTo(fine[i]!, 9));
  });
  it('with one time of 0 follow at once that way and slowly the other', () => {
    const player = playing({ message: cc(), shaping: { smoothing: { kind: 'attackRelease', attackMs: 0, releaseMs: 100 } } });
    perform(player, 'fog 0:0, fog 10:1');
    expect(player.engine.levels[0]).toBe(1);
    perform(player, 'fog 20:0');
    expect(player.engine.levels[0]).toBeCloseTo(1 - 0.1 * 10 + 0.1 * 100 * (1 - Math.exp(-0.1)), 9);
  });
});

describe('60 Hz and 1000 Hz', () => {
  const kinds: [Smoothing, number][] = [
    [{ kind: 'onePole', timeConstantMs: 80 }, 0.01],
    [{ kind: 'onePole', timeConstantMs: 5 }, 0.01],
    [{ kind: 'attackRelease', attackMs: 300, releaseMs: 5 }, 0.01],
    [{ kind: 'attackRelease', attackMs: 5, releaseMs: 300 }, 0.01],
    [{ kind: 'slew', perS: 1 }, 0.01],
    [{ kind: 'slew', perS: 4 }, 0.01],
    [{ kind: 'slew', perS: 7 }, 0.01],
    [{ kind: 'oneEuro', minCutoffHz: 1, beta: 0, derivativeCutoffHz: 1 }, 0.025],
    [{ kind: 'oneEuro', minCutoffHz: 1.5, beta: 1, derivativeCutoffHz: 1 }, 0.025],
  ];
  it.each(kinds)('%j agree within %d of full scale on a sine of 2 Hz', (smoothing, most) => {
    const levels = (rateHz: number) => {
      const { move, engine } = playing({ shaping: { smoothing } });
      const found: number[] = [];
      for (let k = 0; k <= 2 * rateHz; k++) {
        move('fog', (k * 1000) / rateHz, 0.5 - 0.5 * Math.cos((4 * Math.PI * k) / rateHz));
        // Every sixtieth of a second, at whatever rate.
        if (k % (rateHz / 20) === 0) found.push(engine.levels[0]!);
      }
      return found;
    };
    const dense = levels(1020);
    levels(60).forEach((level, i) => expect(Math.abs(level - dense[i]!)).toBeLessThan(most));
  });
});

describe('a slew limit', () => {
  it('follows the straight line between two samples exactly', () => {
    const levelAfter = (script: string) => {
      const player = playing({ shaping: { smoothing: { kind: 'slew', perS: 10 } } });
      perform(player, script);
      return player.engine.levels[0]!;
    };
    // 0 to 1 in 50 ms is 20 a second: half of it is reached; back in 100 ms at 10 a second the line is met on the way and followed.
    expect(levelAfter('fog 0:0, fog 50:1')).toBeCloseTo(0.5, 12);
    // The line falls from 1 at 10/s, the output rises at 10/s from 0.5: they meet after 25 ms at 0.75, then it follows the line.
    expect(levelAfter('fog 0:0, fog 50:1, fog 100:0.5')).toBeCloseTo(0.5, 12);
    // A line that crosses the output steeply (from 1 to 0 in 20 ms, 50/s) is met at t = 0.5 / 60 s, then followed at the limit.
    expect(levelAfter('fog 0:0, fog 50:1, fog 70:0')).toBeCloseTo(0.5 + 10 * (0.5 / 60) - 10 * (0.02 - 0.5 / 60), 12);
  });
});

describe('an angle', () => {
  const turning = (rangeIn: { lo: number; hi: number; outside?: 'wrap' | 'fold' }, smoothing?: Smoothing, range: [number, number] = [0, 360]) =>
    play(withSignals([{ id: 'heading', unit: 'deg', range, period: 360 }], [{ signal: 'heading', message: cc(), shaping: { rangeIn, ...(smoothing ? { smoothing } : {}) } }]));
  it('outside its range is read as the representative nearest to the middle: 359 as -1 for -30..30', () => {
    for (const [value, level] of [[359, 29 / 60], [10, 40 / 60], [45, 1], [330, 0], [300, 0]] as const) {
      const player = turning({ lo: -30, hi: 30 });
      player.move('heading', 0, value);
      expect(player.engine.levels[0]).toBeCloseTo(level, 12);
    }
  });
  it('is smoothed on a circle that the range leaves a part of out, without going back through it', () => {
    const player = turning({ lo: 60, hi: 300 }, { kind: 'onePole', timeConstantMs: 50 });
    perform(player, 'heading 0:300, heading 20:350, heading 40:10', true);
    player.run(44, 600);
    const heard = values(player);
    expect(heard[0]).toBe(127);
    expect(heard.at(-1)).toBe(0);
    // Up to the end, then from the other end on: nothing between.
    expect(new Set(heard)).toEqual(new Set([127, 0]));
  });
  it('goes the short way over the end of a range that is the whole circle', () => {
    const player = turning({ lo: 0, hi: 360 }, { kind: 'onePole', timeConstantMs: 50 });
    perform(player, 'heading 0:350, heading 20:10');
    // 20 deg in 20 ms from -10: lag 50 (1 - e^-0.4) of 1 deg/ms.
    const smoothed = 10 - 50 * (1 - Math.exp(-0.4));
    expect(player.engine.levels[0]).toBeCloseTo((smoothed + 360) / 360, 9);
  });
  it('of a range turned round is read the same way', () => {
    const player = turning({ lo: 30, hi: -30 });
    player.move('heading', 0, 359);
    expect(player.engine.levels[0]).toBeCloseTo(31 / 60, 12);
  });
});

describe('the latest of several mappings', () => {
  const both = (shaping: RigMapping['shaping']) => play(withSignals([{ id: 'a' }, { id: 'b' }], [{ signal: 'a', message: cc(), merge: 'latest', shaping }, { signal: 'b', message: cc(), merge: 'latest' }]));
  it.each<[string, RigMapping['shaping']]>([
    ['smoothed', { smoothing: { kind: 'onePole', timeConstantMs: 20 } }],
    ['de-glitched', { deglitch: { median: 3 } }],
    ['plain', {}],
  ])('is not taken back by one at rest (%s)', (_, shaping) => {
    const player = both(shaping);
    perform(player, 'a 0:.5, b 1:.9');
    player.run(4, 600);
    expect(values(player)).toEqual([64, 114]);
  });
  it('is not the one that said the same again', () => {
    const player = both({});
    perform(player, 'a 0:.5, b 1:.9, a 2:.5');
    expect(values(player)).toEqual([64, 114]);
    perform(player, 'a 3:.501');
    expect(values(player)).toEqual([64, 114, 64]);
  });
  it('is the one that comes on', () => {
    const rig = withSignals([{ id: 'a' }, { id: 'b' }], [{ signal: 'a', message: cc(), merge: 'latest' }, { signal: 'b', message: cc(), merge: 'latest' }]);
    rig.scenes = ['false', 'true'].map((on) => ({ id: on, name: on, mappings: { m0: on === 'true' }, pages: {}, values: {}, messages: [], glideMs: 0 }));
    const player = play(rig);
    perform(player, 'a 0:.5, b 1:.9');
    player.engine.take({ kind: 'recall', scene: 'false', timeMs: 2 });
    player.engine.take({ kind: 'recall', scene: 'true', timeMs: 3 });
    expect(values(player)).toEqual([64, 114, 64]);
  });
  it('and does not speak when its signal settles if another took over', () => {
    const player = both({});
    // 64.3 of 127: held back on its way from 64.9 by the hysteresis, but b has taken over.
    perform(player, 'a 0:.5110, a 10:.50709, b 11:.9');
    player.run(12, 800);
    expect(values(player)).toEqual([65, 114]);
  });
});

describe('a sum', () => {
  const sumOf = (message: MessageSpec, signal: Partial<RigDocument['signals'][number]>) =>
    play(withSignals([{ id: 'a', ...signal }, { id: 'b', ...signal }], [{ signal: 'a', message, merge: 'sum' }, { signal: 'b', message, merge: 'sum' }]));
  it('of bends counts from the centre: two of 0 semitones are the centre', () => {
    const player = sumOf({ kind: 'pitchBend', channel: 1, unit: 'semitones', range: [-2, 2] }, { range: [-1, 1] });
    perform(player, 'a 0:0, b 0:0');
    expect(player.bytes()).toEqual(['E0 00 40']);
    perform(player, 'a 10:.5, b 10:.25');
    // 1 and 0.5 semitones of 2: 8192 + 4096 + 2048.
    expect(player.words().at(-1)).toBe(`channel 1 · bend · ${8192 + 6144}`);
  });
  it('counts from what the mapping sends at rest, else from 0', () => {
    const rested = sumOf(cc(), { range: [-1, 1], rest: 0 });
    perform(rested, 'a 0:0, b 0:.5');
    expect(last(rested)).toBe(96);
    const plain = sumOf(cc(), { range: [0, 127] });
    perform(plain, 'a 0:40, b 0:20');
    expect(last(plain)).toBe(60);
  });
});

describe('a rest near the middle', () => {
  const rest = (rest: number, message: MessageSpec, more: Partial<RigMapping> = {}, range: [number, number] = [-1, 1]) => play(withSignals([{ id: 'stick', range, rest }], [{ signal: 'stick', message, ...more }]));
  it.each<[string, MessageSpec, string]>([
    ['64 of 0..127', cc(), 'B0 14 40'],
    ['8192 of 0..16383', { kind: 'controlChange14', channel: 1, controller: 20, range: [0, 16383] }, 'B0 14 40 B0 34 00'],
    ['8192 of a bend', { kind: 'pitchBend', channel: 1, range: [0, 16383] }, 'E0 00 40'],
    ['0 of -n..n semitones', { kind: 'pitchBend', channel: 1, unit: 'semitones', range: [-2, 2] }, 'E0 00 40'],
  ])('is sent as exactly the middle: %s, from above and from below', (_, message, bytes) => {
    for (const from of [1, -1]) {
      const player = rest(0.02, message);
      perform(player, `stick 0:${from}, stick 10:0.02`);
      const sent = player.bytes();
      expect(sent.slice(sent.length - bytes.split(' ').length / 3).join(' ')).toBe(bytes);
      player.move('stick', 20, from);
      // And both ends are reached.
      expect(player.engine.levels[0]).toBe(from === 1 ? 1 : 0);
    }
  });
  it('lays the levels below and above it apart onto the two halves', () => {
    const player = rest(0.51, cc(), {}, [0, 1]);
    perform(player, 'stick 0:.255');
    expect(player.engine.levels[0]).toBeCloseTo(0.25, 12);
    perform(player, 'stick 10:.755');
    expect(player.engine.levels[0]).toBeCloseTo(0.75, 12);
  });
  it('is a value like all others further away, for programs, OSC and SysEx', () => {
    const away = rest(0.55, cc(), {}, [0, 1]);
    perform(away, 'stick 0:.55');
    expect(last(away)).toBe(Math.round(0.55 * 127));
    const osc = rest(0.51, { kind: 'osc', address: '/x', arguments: [{ type: 'f', value: 'value' }], range: [0, 100] }, {}, [0, 1]);
    perform(osc, 'stick 0:.51');
    expect(osc.osc).toEqual([51]);
  });
});

describe('the median of a slow sensor', () => {
  it.each([5, 10, 20, 30, 100])('of 5 lets no single spike through at %i Hz', (rateHz) => {
    const player = play(withSignals([{ id: 'distance', unit: 'mm', range: [0, 1000] }], [{ signal: 'distance', message: cc(), shaping: { deglitch: { median: 5 } } }]));
    for (let i = 0; i < 60; i++) {
      const timeMs = (i * 1000) / rateHz;
      player.move('distance', timeMs, i > 8 && i % 7 === 0 ? 1000 : 500);
      player.run(timeMs + 2, timeMs + 1000 / rateHz - 2);
    }
    expect(values(player)).toEqual([64]);
  });
  it('lets the last value of a movement through once the signal is silent', () => {
    const player = playing({ message: cc(), shaping: { deglitch: { median: 5 } } });
    perform(player, 'fog 0:.2, fog 10:.4, fog 20:.6, fog 30:.8', true);
    expect(last(player)).not.toBe(102);
    player.run(32, 400);
    expect(last(player)).toBe(102);
  });
});

describe('silence', () => {
  it('is three mean intervals: smoothing of a signal at 20 Hz runs out after 150 ms', () => {
    const player = playing({ message: cc(), shaping: { smoothing: { kind: 'onePole', timeConstantMs: 1 } } });
    for (let i = 0; i < 9; i++) player.move('fog', i * 50, 0);
    player.move('fog', 450, 1);
    const level = player.engine.levels[0];
    player.run(454, 596);
    expect(player.engine.levels[0]).toBe(level);
    player.run(600, 640);
    expect(player.engine.levels[0]).toBe(1);
  });
  it('once over, the input goes to the new sample in a straight line from three mean intervals before it', () => {
    const player = playing({ message: cc(), shaping: { smoothing: { kind: 'onePole', timeConstantMs: 100 } } });
    for (let i = 0; i <= 8; i++) player.move('fog', i * 10, 0);
    player.move('fog', 1000, 1);
    // A ramp of 30 ms into a one-pole of 100 ms.
    expect(player.engine.levels[0]).toBeCloseTo(1 - (100 / 30) * (1 - Math.exp(-0.3)), 9);
    const ticked = playing({ message: cc(), shaping: { smoothing: { kind: 'onePole', timeConstantMs: 100 } } });
    for (let i = 0; i <= 8; i++) ticked.move('fog', i * 10, 0);
    ticked.engine.take({ kind: 'tick', timeMs: 996 });
    ticked.move('fog', 1000, 1);
    expect(ticked.engine.levels[0]).toBeCloseTo(1 - (100 / 4) * (1 - Math.exp(-0.04)), 9);
  });
});

describe('hysteresis', () => {
  it('is for what moves: a signal that stands still sends the nearest step', () => {
    const player = playing({ message: cc() });
    perform(player, `fog 0:${64 / 127}, fog 10:${64.75 / 127}`);
    expect(values(player)).toEqual([64]);
    player.run(12, 200);
    expect(values(player)).toEqual([64, 65]);
  });
  it('also while equal samples come', () => {
    const player = playing({ message: cc() });
    perform(player, `fog 0:${64 / 127}`);
    for (let timeMs = 10; timeMs <= 400; timeMs += 10) {
      player.move('fog', timeMs, 64.75 / 127);
      player.run(timeMs + 2, timeMs + 8);
    }
    expect(values(player)).toEqual([64, 65]);
  });
  it('keeps what is within 0.1 step of a border', () => {
    const player = playing({ message: cc() });
    perform(player, `fog 0:${64 / 127}, fog 10:${64.58 / 127}`);
    player.run(12, 600);
    expect(values(player)).toEqual([64]);
  });
  it('is none for 14 bits', () => {
    const player = playing({ message: { kind: 'pitchBend', channel: 1, range: [0, 16383] } });
    perform(player, `fog 0:${8000 / 16383}, fog 10:${8000.6 / 16383}`);
    expect(player.words()).toEqual(['channel 1 · bend · 8000', 'channel 1 · bend · 8001']);
  });
  it('waits for what is still being smoothed until it has arrived', () => {
    const player = playing({ message: cc(), shaping: { smoothing: { kind: 'onePole', timeConstantMs: 40 } } });
    perform(player, `fog 0:${60 / 127}, fog 10:${64.7 / 127}`);
    player.run(12, 1500);
    expect(last(player)).toBe(65);
    expect(player.engine.pending).toBe(false);
  });
});

describe('a note whose key another mapping took', () => {
  const rig = () => testRig([{ signal: 'bell', message: { ...note(), length: 'untilPressedAgain' } as RigMapping['message'] }, { signal: 'fog.touch', message: note() }, { message: { kind: 'polyPressure', channel: 1, note: { of: 'm0' }, range: [0, 127] } }]);
  it('does not sound any more for the first, which can strike it again', () => {
    const player = play(rig());
    perform(player, 'bell 0:1, bell 10:0, fog.touch 20:1, fog.touch 30:0');
    player.sent.length = 0;
    perform(player, 'bell 40:1, bell 50:0');
    expect(player.bytes()).toEqual(['90 3E 64']);
  });
  it('has no pressure of the first any more', () => {
    const player = play(rig());
    perform(player, 'bell 0:1, bell 10:0, fog 15:.5, fog.touch 20:1, fog 25:.9');
    expect(player.bytes().filter((bytes) => bytes.startsWith('A0'))).toEqual(['A0 3E 40']);
  });
  it('ends with the release velocity of whoever struck it, also when its mapping goes or the rig closes', () => {
    const struck = () => {
      const player = play(testRig([{ signal: 'bell', message: { ...note(), releaseVelocity: 20 } as RigMapping['message'] }, { signal: 'fog.touch', message: { ...note(), releaseVelocity: 99 } as RigMapping['message'] }]));
      player.move('bell', 0, 1);
      player.sent.length = 0;
      return player;
    };
    const taken = struck();
    taken.move('fog.touch', 1, 1);
    expect(taken.bytes()).toEqual(['80 3E 14', '90 3E 64']);
    const closed = struck();
    closed.engine.take({ kind: 'release', timeMs: 1 });
    expect(closed.bytes()).toEqual(['80 3E 14']);
    const edited = struck();
    edited.engine.take({ kind: 'rig', rig: testRig([]), timeMs: 1 });
    expect(edited.bytes()).toEqual(['80 3E 14']);
  });
});

describe('the selected parameter', () => {
  const nrpn: MessageSpec = { kind: 'parameter', channel: 1, registered: false, parameter: 300, bits: 7, range: [0, 127] };
  it.each<[string, Partial<RigMapping>, string]>([
    ['101', { signal: 'bell', message: cc(101) }, 'bell 10:1'],
    ['100', { signal: 'bell', message: cc(100) }, 'bell 10:1'],
    ['98', { signal: 'bell', message: cc(98) }, 'bell 10:1'],
  ])('is selected again after a plain mapping sent %s', (_, other, script) => {
    const player = playing({ message: nrpn }, other);
    perform(player, `fog 0:.5, ${script}`);
    player.sent.length = 0;
    player.move('fog', 20, 0.9);
    expect(player.bytes()).toEqual(['B0 63 02', 'B0 62 2C', 'B0 06 72']);
  });
  it('is selected again after a scene selected another, and not after one that selected the same', () => {
    const rig = testRig([{ message: nrpn }]);
    const scene = (id: string, ...bytes: number[][]) => ({ id, name: id, mappings: {}, pages: {}, values: {}, glideMs: 0, messages: bytes.map((message) => ({ output: 'weather', bytes: message })) });
    rig.scenes = [scene('bend range', [0xb0, 101, 0], [0xb0, 100, 0]), scene('same', [0xb0, 99, 2], [0xb0, 98, 44]), scene('elsewhere', [0xb5, 101, 0])];
    const player = play(rig);
    player.move('fog', 0, 0.5);
    const after = (id: string, value: number) => {
      player.engine.take({ kind: 'recall', scene: id, timeMs: 1 });
      player.sent.length = 0;
      player.move('fog', 2, value);
      return player.bytes();
    };
    expect(after('bend range', 0.9)).toEqual(['B0 63 02', 'B0 62 2C', 'B0 06 72']);
    expect(after('same', 0.5)).toEqual(['B0 06 40']);
    expect(after('elsewhere', 0.9)).toEqual(['B0 06 72']);
  });
});

describe('toggle, radio, momentary', () => {
  const scenes = (rig: RigDocument, ids: string[]) => {
    rig.scenes = ['off', 'on'].map((id) => ({ id, name: id, mappings: Object.fromEntries(ids.map((mapping) => [mapping, id === 'on'])), pages: {}, values: {}, messages: [], glideMs: 0 }));
    return rig;
  };
  it('keep their state while the mapping is off, and nothing presses by itself', () => {
    const player = play(scenes(testRig([{ signal: 'bell', message: cc(), gate: { press: 'toggle' } }]), ['m0']));
    player.move('bell', 0, 1);
    expect(last(player)).toBe(127);
    player.engine.take({ kind: 'recall', scene: 'off', timeMs: 1 });
    player.engine.take({ kind: 'recall', scene: 'on', timeMs: 2 });
    expect(last(player)).toBe(127);
    player.move('bell', 3, 0);
    expect(last(player)).toBe(127);
    player.move('bell', 4, 1);
    expect(last(player)).toBe(0);
  });
  it('a radio button held through off and on does not press', () => {
    const player = play(
      scenes(testRig([{ signal: 'bell', message: cc(20), gate: { press: { radio: 'r' } } }, { signal: 'fog.touch', message: cc(21), gate: { press: { radio: 'r' } } }]), ['m0']),
    );
    player.move('bell', 0, 1);
    player.move('fog.touch', 1, 1);
    player.move('fog.touch', 2, 0);
    player.engine.take({ kind: 'recall', scene: 'off', timeMs: 3 });
    player.engine.take({ kind: 'recall', scene: 'on', timeMs: 4 });
    expect([last(player, 20), last(player, 21)]).toEqual([0, 127]);
  });
  it('a press in a radio group leaves members that are off, without a message', () => {
    const player = play(
      scenes(testRig([{ signal: 'bell', message: cc(20), gate: { press: { radio: 'r' } } }, { signal: 'fog.touch', message: cc(21), gate: { press: { radio: 'r' } } }]), ['m0']),
    );
    player.move('bell', 0, 1);
    player.move('bell', 0, 0);
    player.engine.take({ kind: 'recall', scene: 'off', timeMs: 1 });
    player.sent.length = 0;
    player.move('fog.touch', 2, 1);
    expect(values(player, 20)).toEqual([]);
    player.engine.take({ kind: 'recall', scene: 'on', timeMs: 3 });
    expect(values(player, 20)).toEqual([0]);
  });
  it('a momentary one is off when it comes on, until its key is let go and pressed', () => {
    const player = play(scenes(testRig([{ signal: 'bell', message: note(), gate: { press: 'momentary' } }, { signal: 'bell', message: cc(), gate: { press: 'momentary' } }]), ['m0', 'm1']));
    player.move('bell', 0, 1);
    player.engine.take({ kind: 'recall', scene: 'off', timeMs: 1 });
    player.sent.length = 0;
    player.engine.take({ kind: 'recall', scene: 'on', timeMs: 2 });
    expect(player.bytes()).toEqual(['B0 14 00']);
    player.move('bell', 3, 0);
    expect(player.bytes()).toEqual([]);
    player.move('bell', 4, 1);
    expect(player.bytes()).toEqual(['90 3E 64', 'B0 14 7F']);
  });
});

describe('any edit', () => {
  it('lets glides and springs go on', () => {
    const rig = testRig([{ message: cc() }]);
    rig.signals[0]!.returns = { to: 0, overMs: 200, released: 'fog.touch' };
    rig.scenes = [{ id: 'full', name: 'Full', mappings: {}, pages: {}, values: { fog: 1 }, messages: [], glideMs: 200 }];
    const edited = { ...rig, name: 'Another name', mappings: [...rig.mappings, { ...rig.mappings[0]!, id: 'new', message: cc(30) }] };
    const player = play(rig);
    perform(player, 'fog.touch 0:1, fog 0:0');
    player.engine.take({ kind: 'recall', scene: 'full', timeMs: 0 });
    player.run(4, 100);
    player.engine.take({ kind: 'rig', rig: edited, timeMs: 100 });
    player.run(104, 300);
    expect(last(player)).toBe(127);
    player.move('fog.touch', 400, 0);
    player.run(404, 500);
    player.engine.take({ kind: 'rig', rig, timeMs: 500 });
    player.run(504, 700);
    expect(last(player)).toBe(0);
  });
  it('presses nothing: a key that is held stays as it was', () => {
    const toggle: Partial<RigMapping> = { signal: 'bell', message: cc(), gate: { press: 'toggle' } };
    const player = play(testRig([toggle]));
    player.move('bell', 0, 1);
    player.engine.take({ kind: 'rig', rig: testRig([{ ...toggle, name: 'Other', shaping: { rangeIn: { lo: 0, hi: 2 } }, gate: { press: 'toggle', on: 0.1, off: 0.05 } }]), timeMs: 1 });
    expect(last(player)).toBe(127);
    player.move('bell', 2, 0);
    expect(last(player)).toBe(127);
  });
});

describe('velocity from speed', () => {
  const struck = (script: string, velocity = 100) => {
    const player = playing({ message: { kind: 'note', channel: 1, note: 62, velocity, velocityFrom: { fullSpeedPerS: 10 } }, gate: { on: 0.6, off: 0.4 } });
    perform(player, script);
    return player.bytes();
  };
  it('is capped at the velocity asked for', () => expect(struck('fog 0:0, fog 10:1', 80)).toEqual(['90 3E 50']));
  it('is 1 for two samples at one time', () => expect(struck('fog 0:0, fog 0:1')).toEqual(['90 3E 01']));
});

describe('shapes', () => {
  it('one step is the middle', () => {
    const player = playing({ message: cc(), shaping: { steps: { count: 1, hysteresis: 0 } } });
    player.move('fog', 0, 0.9);
    expect(last(player)).toBe(64);
  });
  const curveOf = (points: Extract<Curve, { kind: 'points' }>['points']) => {
    const coefficients = new Float64Array((points.length - 1) * SEGMENT);
    monotoneSegments(points, coefficients, 0);
    return (x: number) => pointsCurve(coefficients, 0, points.length - 1, x);
  };
  it('beside a jump each side is a curve of its own with a free end: straight lines stay straight', () => {
    const saw = curveOf([[0, 0], [0.5, 1], [0.5, 0], [1, 1]]);
    for (const x of [0.1, 0.25, 0.45]) expect(saw(x)).toBeCloseTo(2 * x, 12);
    for (const x of [0.5, 0.6, 0.9]) expect(saw(x)).toBeCloseTo(2 * (x - 0.5), 12);
  });
});
