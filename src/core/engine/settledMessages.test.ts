import { describe, expect, it } from 'vitest';
import type { RigDocument, RigMapping } from '../rig/document';
import { play, playing } from './testPlay';
import { testRig } from './testRig';
import { cc, last, perform, values, withSignals } from './testScript';
import type { MessageSpec } from '../messages';

/** The rules of the section "Settled" in the design of the engine from the level on, each from its sentence. */

const note = (key = 62): RigMapping['message'] => ({ kind: 'note', channel: 1, note: key, velocity: 100 });

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

describe('hysteresis', () => {
  it('is for what moves: a signal that stands still sends the nearest step', () => {
    const player = playing({ message: cc() });
    perform(player, `fog 0:${64 / 127}, fog 10:${64.75 / 127}`);
    expect(values(player)).toEqual([64]);
    player.run(12, 200);
    expect(values(player)).toEqual([64, 65]);
  });
  it.each<[string, RigMapping['shaping']]>([
    ['as it is', {}],
    ['smoothed', { smoothing: { kind: 'onePole', timeConstantMs: 10 } }],
    ['of a median', { deglitch: { median: 3 } }],
  ])('also while equal samples come, %s', (_how, shaping) => {
    const player = playing({ message: cc(), shaping });
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

describe('what ends all notes of a channel', () => {
  const latched = () => testRig([{ signal: 'bell', message: { ...note(), length: 'untilPressedAgain' } as RigMapping['message'] }, { signal: 'fog.touch', message: cc(123) }]);
  const pressed = (player: ReturnType<typeof play>, timeMs: number) => (player.move('bell', timeMs, 1), player.move('bell', timeMs + 1, 0), player.bytes());
  it.each<[string, (player: ReturnType<typeof play>) => void]>([
    ['a mapping sends it', (player) => player.move('fog.touch', 10, 1)],
    ['a person sends it', (player) => player.engine.take({ kind: 'send', output: 'weather', bytes: Uint8Array.of(0xb0, 123, 0), timeMs: 10 })],
    ['what goes through has it', (player) => player.engine.take({ kind: 'pass', input: 'deck', output: 'weather', bytes: Uint8Array.of(0xb0, 126, 1), timeMs: 10 })],
    ['it says all sound off', (player) => player.engine.take({ kind: 'send', output: 'weather', bytes: Uint8Array.of(0xb0, 120, 0), timeMs: 10 })],
  ])('ends the notes of the book as well, so that the next press strikes again: %s', (_, said) => {
    const player = play(latched());
    expect(pressed(player, 0)).toEqual(['90 3E 64']);
    said(player);
    expect(player.bytes().slice(1)).toEqual(['80 3E 40']);
    expect(pressed(player, 20)).toEqual(['90 3E 64']);
  });
  it('leaves other channels, and what only resets controllers', () => {
    const player = play(latched());
    pressed(player, 0);
    for (const bytes of [[0xb1, 123, 0], [0xb0, 121, 0], [0xb0, 122, 0]]) player.engine.take({ kind: 'send', output: 'weather', bytes: Uint8Array.from(bytes), timeMs: 10 });
    player.sent.length = 0;
    expect(pressed(player, 20)).toEqual(['80 3E 40']);
  });
});

describe('a pedal that holds notes (64, 66, 69) and is down', () => {
  const down = (controller: number, ...more: Partial<RigMapping>[]) => {
    const rig = testRig([{ message: cc(controller) }, { signal: 'bell', message: cc(21) }, ...more]);
    rig.scenes = [{ id: 'off', name: 'Off', mappings: { m0: false, m1: false }, pages: {}, values: {}, messages: [], glideMs: 0 }, { id: 'on', name: 'On', mappings: { m0: true, m1: true }, pages: {}, values: {}, messages: [], glideMs: 0 }];
    const player = play(rig);
    perform(player, 'fog 0:1, bell 1:1');
    player.sent.length = 0;
    const edit = (edited: Partial<RigDocument>) => (player.engine.take({ kind: 'rig', rig: { ...rig, ...edited }, timeMs: 5 }), player.bytes());
    const recall = (scene: string) => (player.engine.take({ kind: 'recall', scene, timeMs: 5 }), player.bytes());
    return { rig, edit, recall };
  };
  it.each([[64, 'B0 40'], [66, 'B0 42'], [69, 'B0 45']])('%i is lifted when a scene switches its mapping off, and said again when it comes on', (controller, hex) => {
    const { recall } = down(controller);
    expect(recall('off')).toEqual([`${hex} 00`]);
    expect(recall('on')).toEqual([`${hex} 7F`]);
  });
  it('is lifted when its mapping goes, is switched off or moves elsewhere; no other edit does that', () => {
    const { rig, edit } = down(64);
    const [pedal, plain] = rig.mappings as [RigMapping, RigMapping];
    expect(edit({ mappings: [{ ...pedal, name: 'Ring on' }, plain] })).toEqual([]);
    expect(edit({ mappings: [{ ...pedal, on: false }, plain] })).toEqual(['B0 40 00']);
    expect(edit({ mappings: [pedal, plain] })).toEqual(['B0 40 7F']);
    expect(edit({ mappings: [{ ...pedal, message: { ...cc(64), channel: 3 } as RigMapping['message'] }, plain] })).toEqual(['B0 40 00', 'B2 40 7F']);
    expect(edit({ mappings: [] })).toEqual(['B2 40 00']);
  });
  it('stays down where another mapping plays it, and other values stay where they are', () => {
    const { recall } = down(64, { signal: 'fog.touch', message: cc(64) });
    expect(recall('off')).toEqual([]);
    expect(down(67).recall('off')).toEqual([]);
  });
});

describe('the selected parameter', () => {
  const nrpn: MessageSpec = { kind: 'parameter', channel: 1, registered: false, parameter: 300, bits: 7, range: [0, 127] };
  it.each<[string, Partial<RigMapping>, string]>([
    ['101', { signal: 'bell', message: cc(101) }, 'bell 10:1'],
    ['100', { signal: 'bell', message: cc(100) }, 'bell 10:1'],
    ['98', { signal: 'bell', message: cc(98) }, 'bell 10:1'],
    ['121, which selects none (MMA RP-015)', { signal: 'bell', message: cc(121) }, 'bell 10:1'],
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
    rig.scenes = [scene('bend range', [0xb0, 101, 0], [0xb0, 100, 0]), scene('same', [0xb0, 99, 2], [0xb0, 98, 44]), scene('elsewhere', [0xb5, 101, 0]), scene('reset', [0xb0, 121, 0])];
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
    expect(after('reset', 0.5)).toEqual(['B0 63 02', 'B0 62 2C', 'B0 06 40']);
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
  it('is that of the last stretch, not of the equal samples before it', () => {
    const rest = Array.from({ length: 100 }, (_, i) => `fog ${i * 40}:.4`).join(', ');
    // 0.3 in 40 ms are 7.5 a second of 10.
    expect(struck(`${rest}, fog 4000:.7`)).toEqual(['90 3E 4B']);
  });
  it('after a silence is that of a way of three mean intervals (Settled: silence)', () => {
    // 0.9 in 3 x 40 ms are as many.
    expect(struck('fog 0:.1, fog 40:0, fog 80:.1, fog 120:0, fog 3000:.9')).toEqual(['90 3E 4B']);
  });
  it('is 1 for two samples at one time', () => expect(struck('fog 0:0, fog 0:1')).toEqual(['90 3E 01']));
});
