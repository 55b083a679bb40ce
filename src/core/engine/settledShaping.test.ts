import { describe, expect, it } from 'vitest';
import type { Curve, RigMapping, Smoothing } from '../rig/document';
import { monotoneSegments, pointsCurve, SEGMENT } from '../shaping/curve';
import { play, playing } from './testPlay';
import { cc, last, perform, values, withSignals } from './testScript';
import type { MessageSpec } from '../messages';

/** The rules of the section "Settled" in the design of the engine up to the level, each from its sentence or its closed form. */

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
  it('says nothing of an axis that was not heard yet, however far the other one moves', () => {
    const player = pair([-1, 1], [0, 500]);
    perform(player, 'x 0:.9');
    expect(values(player, 21)).toEqual([]);
    perform(player, 'y 0:250, x 10:0.8');
    expect(values(player, 21)).toEqual([64]);
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

describe('a jump gate', () => {
  it('holds back a spike after a silence as well: until then the input stood still', () => {
    const player = playing({ message: cc(), shaping: { deglitch: { jump: { perS: 2, forMs: 50 } } } });
    perform(player, 'fog 0:.20, fog 10:.21, fog 20:.20, fog 30:.21, fog 40:.20', true);
    player.sent.length = 0;
    // 0.6 in three intervals of 10 ms are 20 a second, though 2 s have passed.
    perform(player, 'fog 2000:.8, fog 2010:.2, fog 2020:.2');
    expect(values(player)).toEqual([]);
    // 0.05 in as many are 1.7.
    perform(player, 'fog 4000:.25');
    expect(last(player)).toBe(32);
  });
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
