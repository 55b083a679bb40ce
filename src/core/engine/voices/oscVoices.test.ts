import { describe, expect, it } from 'vitest';
import { OSC_LAYOUT, oscAxis, oscVoiceRig, playVoices, voiceRig } from './testVoices';

const OFFS = ['/hull/off i 1 f 0', '/hull/off i 2 f 0', ...[64, 66, 69].map((pedal) => `/hull/pedal i ${pedal} f 0`)];

describe('voices as OSC', () => {
  it('leave with the number of their voice, nothing rounded, and are ended once', () => {
    const hull = playVoices(oscVoiceRig());
    hull.engine.take({ kind: 'start', timeMs: 0 });
    // Whoever listens may still sound what a program before this one began, or hold it by a pedal that came up meanwhile.
    expect(hull.take()).toEqual(OFFS);
    hull.on(0, 7, 60.25, { strike: 0.5, pressure: 0.1, slide: 0.5 });
    expect(hull.take()).toEqual(['/hull/on i 1 f 60.25 f 0.5', '/hull/slide i 1 f 0.5', '/hull/press i 1 f 0.1']);
    hull.on(1, 9, 60.25, { strike: 1, pressure: 0, slide: 0.5 });
    expect(hull.take()[0]).toBe('/hull/on i 2 f 60.25 f 1');
    hull.move(2, 7, { pitch: 60.3, pressure: 0.123 });
    expect(hull.take()).toEqual(['/hull/pitch i 1 f 60.3', '/hull/press i 1 f 0.123']);
    hull.move(3, 7, { pitch: 60.3, pressure: 0.123 });
    expect(hull.take()).toEqual([]);
    hull.off(4, 7, 0.25);
    expect(hull.take()).toEqual(['/hull/off i 1 f 0.25']);
    hull.off(5, 7);
    hull.off(6, 9);
    expect(hull.take()).toEqual([`/hull/off i 2 f ${64 / 127}`]);
  });

  it('say a negative value and an inverted range as they are', () => {
    const hull = playVoices(oscVoiceRig({ pressure: { ...oscAxis('press'), range: [1, -1] } }));
    hull.on(0, 1, 60, { pressure: 0 });
    hull.take();
    hull.move(1, 1, { pressure: 1 });
    hull.move(2, 1, { pressure: 0.5 });
    expect(hull.take()).toEqual(['/hull/press i 1 f -1', '/hull/press i 1 f 0']);
  });

  it('make room as any layout, without bends are the nearest key, and pedals have their number', () => {
    const hull = playVoices(oscVoiceRig({ pitch: { transpose: 0, bends: false } }));
    hull.on(0, 1, 59.6);
    hull.on(1, 2, 62);
    hull.take();
    hull.on(2, 3, 64);
    expect(hull.take().slice(0, 2)).toEqual([`/hull/off i 1 f ${64 / 127}`, `/hull/on i 1 f 64 f ${100 / 127}`]);
    hull.move(3, 3, { pitch: 65 });
    expect(hull.take()).toEqual([]);
    hull.engine.take({ kind: 'pedal', timeMs: 4, stream: 0, controller: 64, value: 127 });
    hull.engine.take({ kind: 'endStream', timeMs: 5, stream: 0 });
    expect(hull.take().filter((line) => !line.includes('/off'))).toEqual(['/hull/pedal i 64 f 1', '/hull/pedal i 64 f 0']);
  });

  it('a pedal that is down comes up with Panic', () => {
    const hull = playVoices(oscVoiceRig());
    hull.engine.take({ kind: 'pedal', timeMs: 0, stream: 0, controller: 64, value: 127 });
    hull.take();
    hull.engine.take({ kind: 'panic', timeMs: 1 });
    expect(hull.take()).toEqual(['/hull/pedal i 64 f 0']);
  });

  it.each([
    ['Panic', (hull: ReturnType<typeof playVoices>) => void hull.engine.take({ kind: 'panic', timeMs: 9 })],
    ['the end of the program', (hull: ReturnType<typeof playVoices>) => void hull.engine.take({ kind: 'release', timeMs: 9 })],
    ['its stream going', (hull: ReturnType<typeof playVoices>) => void hull.engine.take({ kind: 'endStream', timeMs: 9, stream: 0 })],
    ['the voice mapping going', (hull: ReturnType<typeof playVoices>) => void hull.engine.take({ kind: 'rig', timeMs: 9, rig: { ...hull.engine.plan.rig, voiceMappings: [] } })],
    ['another address', (hull: ReturnType<typeof playVoices>) => void hull.engine.take({ kind: 'rig', timeMs: 9, rig: oscVoiceRig({ layout: { ...OSC_LAYOUT, address: '/keel' } }) })],
    ['one alone', (hull: ReturnType<typeof playVoices>) => void hull.engine.take({ kind: 'rig', timeMs: 9, rig: { ...hull.engine.plan.rig, receivers: [{ ...hull.engine.plan.rig.receivers[0]!, alone: true }] } })],
  ])('end with %s', (_, happens) => {
    const hull = playVoices(oscVoiceRig());
    hull.on(0, 1, 60);
    hull.take();
    happens(hull);
    expect(hull.take().filter((line) => line.startsWith('/hull/off'))).toEqual([`/hull/off i 1 f ${64 / 127}`]);
  });
});

describe('a controller of each key', () => {
  it('is said before its note, and on the key of the voice (Key-Based Instrument Control, CA-023)', () => {
    const hull = playVoices(voiceRig({ layout: { kind: 'poly', channel: 3, voices: 4, steal: 'oldest' }, pitch: { transpose: 0, bends: false }, pressure: { shaping: {}, message: { kind: 'keyController', controller: 7 }, range: [0, 127] }, slide: { shaping: {}, message: { kind: 'polyPressure' }, range: [0, 127] } }));
    hull.on(0, 1, 60, { strike: 1, pressure: 1, slide: 0 });
    expect(hull.take()).toEqual(['F0 7F 7F 0A 01 02 3C 07 7F F7', '92 3C 7F', 'A2 3C 00']);
    hull.on(1, 2, 64, { strike: 1, pressure: 0, slide: 0 });
    hull.take();
    // Each of several voices on one channel has its own.
    hull.move(2, 1, { pressure: 0.5 });
    expect(hull.take()).toEqual(['F0 7F 7F 0A 01 02 3C 07 40 F7']);
  });
});
