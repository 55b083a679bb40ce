import { describe, expect, it } from 'vitest';
import { playVoices, voiceRig } from '../engine/voices/testVoices';
import type { Pull } from './pull';

const BASE: Pull = { scale: { kind: 'mode', root: 0, mode: 'chromatic' }, referenceHz: 440, atStart: 0, held: 0, bandCents: 50, speedMs: 300, atRelease: 0 };

/** Plays one voice with a pull; gives what it sounds at, in semitones, after each call. */
function pulled(pull: Partial<Pull>) {
  const play = playVoices(voiceRig({ pitch: { transpose: 0, bends: true, pull: { ...BASE, ...pull } }, pressure: undefined, slide: undefined }));
  let note = NaN;
  let sounds = NaN;
  const look = () => {
    for (const bytes of play.take()) {
      const [status, first, second] = bytes.split(' ').map((byte) => parseInt(byte, 16)) as [number, number, number];
      if (status >> 4 === 0x9) note = first;
      if (status >> 4 === 0xe) sounds = (48 * ((first | (second << 7)) - 8192)) / 8192;
    }
    return note + sounds;
  };
  return {
    on: (timeMs: number, pitch: number) => (play.on(timeMs, 0, pitch), look()),
    move: (timeMs: number, pitch: number) => (play.move(timeMs, 0, { pitch }), look()),
    off: (timeMs: number) => (play.off(timeMs, 0), look()),
    tick: (timeMs: number) => (play.engine.take({ kind: 'tick', timeMs }), look()),
    play,
  };
}

/** A step of a bend at range 48, in semitones. */
const STEP = 48 / 8192;

describe('pull', () => {
  it('at the beginning takes its share of what is missing, at once', () => {
    expect(pulled({ atStart: 1 }).on(0, 60.3)).toBeCloseTo(60, 2);
    expect(pulled({ atStart: 0.5 }).on(0, 60.3)).toBeCloseTo(60.15, 2);
    expect(pulled({}).on(0, 60.3)).toBeCloseTo(60.3, 2);
  });

  it('struck in tune and not held: what it moves by afterwards is what the finger moves by', () => {
    const voice = pulled({ atStart: 1 });
    voice.on(0, 60.3);
    expect(voice.move(50, 60.8)).toBeCloseTo(60.5, 2);
    expect(voice.move(100, 67.3)).toBeCloseTo(67, 2);
  });

  it('while held goes there exponentially: 63.2 % of what is missing after one time constant', () => {
    const voice = pulled({ held: 1, speedMs: 200 });
    voice.on(0, 60.4);
    for (let timeMs = 4; timeMs < 200; timeMs += 4) voice.tick(timeMs);
    expect(Math.abs(voice.tick(200) - (60 + 0.4 * Math.exp(-1)))).toBeLessThan(STEP);
    for (let timeMs = 204; timeMs < 600; timeMs += 4) voice.tick(timeMs);
    expect(Math.abs(voice.tick(600) - (60 + 0.4 * Math.exp(-3)))).toBeLessThan(STEP);
    for (let timeMs = 604; timeMs < 6000; timeMs += 4) voice.tick(timeMs);
    expect(voice.tick(6000)).toBeCloseTo(60, 2);
    expect(voice.play.engine.pending).toBe(false);
  });

  it('is the same whether ticks come every 1 ms or every 40 ms', () => {
    const after = (everyMs: number) => {
      const voice = pulled({ held: 0.8, speedMs: 150 });
      voice.on(0, 60.3);
      let at = NaN;
      for (let timeMs = everyMs; timeMs <= 400; timeMs += everyMs) at = voice.tick(timeMs);
      return at;
    };
    expect(Math.abs(after(1) - after(40))).toBeLessThanOrEqual(STEP);
  });

  it('leaves alone what is further away than its band: a glide', () => {
    const voice = pulled({ held: 1, bandCents: 20, speedMs: 50 });
    voice.on(0, 60.4);
    for (let timeMs = 4; timeMs < 1000; timeMs += 4) voice.tick(timeMs);
    expect(voice.tick(1000)).toBeCloseTo(60.4, 2);
  });

  it('keeps a vibrato of 5 Hz and 30 cents within 10 %, around a pitch that is in tune', () => {
    const voice = pulled({ atStart: 1, held: 1, bandCents: 60, speedMs: 300 });
    voice.on(0, 60.2);
    const heard: number[] = [];
    for (let timeMs = 4; timeMs < 6000; timeMs += 4) {
      const at = voice.move(timeMs, 60.2 + 0.3 * Math.sin((2 * Math.PI * 5 * timeMs) / 1000));
      if (timeMs > 4000) heard.push(at);
    }
    const extent = (Math.max(...heard) - Math.min(...heard)) / 2;
    const middle = (Math.max(...heard) + Math.min(...heard)) / 2;
    expect(extent).toBeGreaterThan(0.27);
    expect(extent).toBeLessThan(0.33);
    expect(Math.abs(middle - 60)).toBeLessThan(0.03);
  });

  it('of a voice that has rested takes no longer way into account than the one to its next sample', () => {
    const voice = pulled({ held: 1, speedMs: 200 });
    voice.on(0, 60.1);
    let timeMs = 4;
    for (; voice.play.engine.pending; timeMs += 4) voice.tick(timeMs);
    // Three intervals of 25 ms at most: a straight way of that length leaves at least 80 % of a jump where it is played.
    expect(voice.move(timeMs + 5000, 60.3) - 60).toBeGreaterThan(0.2 * 0.8);
  });

  it('two that drift apart come together', () => {
    const drifting = [60.25, 59.8].map((pitch) => {
      const voice = pulled({ held: 1, speedMs: 100 });
      voice.on(0, pitch);
      let at = NaN;
      for (let timeMs = 4; timeMs < 2000; timeMs += 4) at = voice.move(timeMs, pitch + 0.00002 * timeMs);
      return at;
    });
    expect(Math.abs(drifting[0]! - drifting[1]!)).toBeLessThan(0.02);
  });

  it('at release takes its share, before the note ends', () => {
    const voice = pulled({ atRelease: 1 });
    voice.on(0, 60.4);
    expect(voice.off(10)).toBeCloseTo(60, 2);
  });

  it('is of the reference: A4 at 442 Hz lies 7.85 cents higher (1200 log2(442/440))', () => {
    expect(Math.abs(pulled({ atStart: 1, referenceHz: 442 }).on(0, 69.2) - 69.0785)).toBeLessThan(STEP);
  });
});
