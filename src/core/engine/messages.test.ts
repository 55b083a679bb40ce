import { describe, expect, it } from 'vitest';
import type { RigDocument } from '../rig/document';
import { KEEP } from './sink';
import { play, playing } from './testPlay';
import { testRig } from './testRig';
import type { MessageSpec } from '../messages';

const full: [number, number] = [0, 127];

describe('14-bit controllers (MIDI 1.0: controller n carries the MSB, n + 32 the LSB)', () => {
  const message: MessageSpec = { kind: 'controlChange14', channel: 1, controller: 20, range: [0, 16383] };
  it('send the MSB first, and the LSB alone where only it changed', () => {
    const { move, bytes } = playing({ message });
    move('fog', 0, 8192 / 16383);
    expect(bytes()).toEqual(['B0 14 40', 'B0 34 00']);
    move('fog', 0, 8200 / 16383);
    expect(bytes()).toEqual(['B0 34 08']);
    move('fog', 0, 1);
    expect(bytes()).toEqual(['B0 14 7F', 'B0 34 7F']);
  });
});

describe('registered and other parameters', () => {
  const rpn: MessageSpec = { kind: 'parameter', channel: 1, registered: true, parameter: 0, bits: 7, range: [0, 24] };
  const nrpn: MessageSpec = { kind: 'parameter', channel: 1, registered: false, parameter: 300, bits: 14, range: [0, 16383] };
  it('select by 101/100 or 99/98, then 6 and 38, and again only after another was selected', () => {
    const { move, bytes } = playing({ message: rpn }, { message: nrpn, signal: 'bell' });
    move('fog', 0, 0.5);
    expect(bytes()).toEqual(['B0 65 00', 'B0 64 00', 'B0 06 0C']);
    move('fog', 0, 1);
    expect(bytes()).toEqual(['B0 06 18']);
    move('bell', 0, 1);
    expect(bytes()).toEqual(['B0 63 02', 'B0 62 2C', 'B0 06 7F', 'B0 26 7F']);
    move('fog', 0, 0);
    expect(bytes()).toEqual(['B0 65 00', 'B0 64 00', 'B0 06 00']);
  });
  it('close with the null function where wanted', () => {
    const { move, bytes } = playing({ message: { ...rpn, nullAfter: true } as MessageSpec });
    move('fog', 0, 1);
    move('fog', 0, 0);
    expect(bytes()).toEqual(['B0 65 00', 'B0 64 00', 'B0 06 18', 'B0 65 7F', 'B0 64 7F', 'B0 65 00', 'B0 64 00', 'B0 06 00', 'B0 65 7F', 'B0 64 7F']);
  });
  it('carry the MPE configuration: RPN 6 on channel 1 with 15 member channels (MPE 1.0, RP-053)', () => {
    const { move, bytes } = playing({ message: { kind: 'parameter', channel: 1, registered: true, parameter: 6, bits: 7, range: [0, 15] } });
    move('fog', 0, 1);
    expect(bytes()).toEqual(['B0 65 00', 'B0 64 06', 'B0 06 0F']);
  });
});

describe('on a slow output', () => {
  it('every unit stands for itself, so that a newer one may take the place of one that still waits', () => {
    const rig = testRig([{ message: { kind: 'controlChange14', channel: 1, controller: 20, range: [0, 16383] } }]);
    rig.outputs[0]!.bytesPerS = 3125;
    const { move, sent, bytes } = play(rig);
    move('fog', 0, 8192 / 16383);
    move('fog', 0, 8200 / 16383);
    expect(new Set(sent.map(({ address }) => address))).toEqual(new Set([0]));
    expect(bytes()).toEqual(['B0 14 40', 'B0 34 00', 'B0 14 40', 'B0 34 08']);
  });
  it('notes are kept and have no address to be replaced at', () => {
    const { move, sent } = playing({ signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 } });
    move('bell', 0, 1);
    expect(sent.map(({ address }) => address)).toEqual([KEEP]);
  });
});

describe('pitch bend in semitones, by the range of the receiver', () => {
  it.each([
    [2, 12288, 'MIDI 1.0 (centre 8192)'],
    [48, 8363, 'computed: 8192 + 170.67'],
    [24, 8533, 'computed: 8192 + 341.33'],
  ])('with a range of %i, one semitone up is %i (%s)', (bendRangeSemitones, bend) => {
    const rig = testRig([{ message: { kind: 'pitchBend', channel: 1, unit: 'semitones', range: [0, 1] } }]);
    rig.receivers[0]!.bendRangeSemitones = bendRangeSemitones;
    const { move, words } = play(rig);
    move('fog', 0, 1);
    expect(words()).toEqual([`channel 1 · bend · ${bend}`]);
  });
  it('stays within 0 to 16383, and is the centre where the receiver has no range', () => {
    const rig = testRig([{ message: { kind: 'pitchBend', channel: 1, unit: 'semitones', range: [-12, 12] } }]);
    const wide = play(rig);
    wide.move('fog', 0, 1);
    wide.move('fog', 0, 0);
    expect(wide.bytes()).toEqual(['E0 7F 7F', 'E0 00 00']);
    rig.receivers[0]!.bendRangeSemitones = 0;
    const none = play(rig);
    none.move('fog', 0, 1);
    expect(none.bytes()).toEqual(['E0 00 40']);
  });
});

describe('other continuous messages', () => {
  it.each<[string, MessageSpec, number, string[]]>([
    ['channel pressure', { kind: 'channelPressure', channel: 2, range: full }, 1, ['D1 7F']],
    ['poly pressure of a fixed note', { kind: 'polyPressure', channel: 2, note: 60, range: full }, 1, ['A1 3C 7F']],
    ['program change, shown as 1-128 and sent as 0-127', { kind: 'programChange', channel: 1, range: [1, 128] }, 1, ['C0 7F']],
    ['program change with its bank before it', { kind: 'programChange', channel: 1, range: [1, 5], bank: { msb: 1, lsb: 2 } }, 1, ['B0 00 01', 'B0 20 02', 'C0 04']],
    ['SysEx with a 7-bit value in its place', { kind: 'sysEx', bytes: [0x7d, 'value', 1], range: full }, 1, ['F0 7D 7F 01 F7']],
    ['SysEx with a 14-bit value', { kind: 'sysEx', bytes: [0x7d, 'msb', 'lsb'], range: [0, 16383] }, 0.5, ['F0 7D 40 00 F7']],
  ])('%s', (_, message, value, expected) => {
    const { move, bytes } = playing({ message });
    move('fog', 0, value);
    expect(bytes()).toEqual(expected);
  });
  it('an OSC message carries the value in the unit of its range', () => {
    const { move, osc } = playing({ message: { kind: 'osc', address: '/fog', arguments: [{ type: 'f', value: 'value' }], range: [-10, 10] } });
    move('fog', 0, 0.75);
    expect(osc).toEqual([5]);
  });
  it('whole numbers of OSC are said once, tremble no more than those of 7 bits, and reach both ends', () => {
    const { move, osc } = playing({ message: { kind: 'osc', address: '/lamp', arguments: [{ type: 'i', value: 'value' }, { type: 's', value: 'a' }], range: [0, 4] } });
    // Between 1 and 2 a value that moves must go 0.3 past the border at 1.5.
    [1, 1.1, 1.3, 1.45, 1.55, 1.45, 1.55, 1.75, 1.85, 1.9, 3.9, 4, 0.2, 0].forEach((value, i) => move('fog', i * 10, value / 4));
    expect(osc).toEqual([1, 2, 4, 0]);
  });
  it('with a fraction beside them every change is said', () => {
    const { move, osc } = playing({ message: { kind: 'osc', address: '/lamp', arguments: [{ type: 'f', value: 'value' }, { type: 'i', value: 'value' }], range: [0, 4] } });
    for (const [i, value] of [0.25, 0.26, 0.27].entries()) move('fog', i * 10, value);
    expect(osc).toHaveLength(3);
  });
});

describe('relative controllers (common practice)', () => {
  const turn = (encoding: 'signedBit' | 'twosComplement' | 'binaryOffset') => {
    const { move, bytes } = playing({ message: { kind: 'relative', channel: 1, controller: 20, encoding, steps: 100, most: 8 } });
    move('fog', 0, 0.5);
    for (const value of [0.51, 0.59, 0.58, 0.5]) move('fog', 0, value);
    return bytes().map((row) => parseInt(row.slice(6), 16));
  };
  it('send no step because a controller with a value became one', () => {
    const rig = testRig([{}]);
    const { move, bytes, engine } = play(rig);
    move('fog', 0, 0);
    move('fog', 20, 0.7);
    bytes();
    engine.take({ kind: 'rig', rig: { ...rig, mappings: [{ ...rig.mappings[0]!, message: { kind: 'relative', channel: 1, controller: 20, encoding: 'binaryOffset', steps: 64, most: 8 } }] }, timeMs: 21 });
    expect(bytes()).toEqual([]);
  });
  it('send +1, +8, -1, -8 as signed bit', () => expect(turn('signedBit')).toEqual([1, 8, 65, 72]));
  it('send +1, +8, -1, -8 in two’s complement', () => expect(turn('twosComplement')).toEqual([1, 8, 127, 120]));
  it('send +1, +8, -1, -8 as binary offset', () => expect(turn('binaryOffset')).toEqual([65, 72, 63, 56]));
  it('lose no part of a step, send a long way in several, and go finer with the modifier', () => {
    const { move, bytes } = playing({ message: { kind: 'relative', channel: 1, controller: 20, encoding: 'signedBit', steps: 10, most: 8, fine: { signal: 'bell', divideBy: 5 } } });
    for (let i = 0; i <= 100; i++) move('fog', 0, i / 100);
    expect(bytes()).toHaveLength(10);
    move('fog', 0, 0);
    expect(bytes()).toEqual(['B0 14 48', 'B0 14 42']);
    move('bell', 0, 1);
    move('fog', 0, 1);
    expect(bytes()).toEqual(['B0 14 02']);
  });

  describe('of something that is on or off', () => {
    const message = { kind: 'relative' as const, channel: 1, controller: 20, encoding: 'binaryOffset' as const, steps: 10, most: 10 };
    /** The steps since the last call. */
    const stepsOf = (bytes: () => string[]) => bytes().map((row) => parseInt(row.slice(6), 16) - 64);
    /** At any moment as many steps were sent as the level has gone. */
    const total = (bytes: () => string[]) => stepsOf(bytes).reduce((sum, step) => sum + step, 0);
    it('go up with a press, also the first, and down when it is let go', () => {
      const { move, run, bytes } = playing({ signal: 'bell', message });
      const steps: number[][] = [];
      for (const [i, value] of [1, 0, 1, 0.5, 0].entries()) {
        move('bell', i * 100, value);
        run(i * 100, i * 100 + 96);
        steps.push(stepsOf(bytes));
      }
      expect(steps).toEqual([[10], [-10], [10], [-5], [-5]]);
    });
    it('go down with the first press where the range is turned round, and by what is left of it', () => {
      for (const [rangeIn, way] of [[{ lo: 1, hi: 0 }, -10], [{ lo: 1, hi: -1 }, -5], [{ lo: -1, hi: 1 }, 5]] as const) {
        const { move, bytes } = playing({ signal: 'bell', message, shaping: { rangeIn: { ...rangeIn, outside: 'clamp' } } });
        move('bell', 0, 1);
        expect(stepsOf(bytes)).toEqual([way]);
        move('bell', 100, 0);
        expect(stepsOf(bytes)).toEqual([-way]);
      }
    });
    it('go there with one press of a toggle and back with the next, between thresholds of a fader too', () => {
      for (const signal of ['bell', 'fog']) {
        const { move, run, bytes } = playing({ signal, message, gate: { on: 0.6, off: 0.4, press: 'toggle' } });
        const steps = [0.7, 0.9, 0, 0.2, 1, 0.8, 0].map((value, i) => {
          move(signal, i * 100, value);
          run(i * 100, i * 100 + 96);
          return stepsOf(bytes);
        });
        expect(steps).toEqual([[10], [], [], [], [-10], [], []]);
      }
    });
    it('follow a ramp and a climb, and are left where those stop', () => {
      const ramp = playing({ signal: 'bell', message, motion: { kind: 'ramp', onLevel: 0.7, offLevel: 0.2, upMs: 1000, downMs: 1000 } });
      ramp.move('bell', 0, 1);
      ramp.run(0, 496);
      expect(total(ramp.bytes)).toBe(2);
      ramp.run(500, 2000);
      expect(total(ramp.bytes)).toBe(3);
      ramp.move('bell', 2000, 0);
      ramp.run(2000, 4000);
      expect(total(ramp.bytes)).toBe(-5);
      const climb = playing({ signal: 'bell', message, motion: { kind: 'climb', perS: 1, accelerationPerS2: 0 } });
      climb.move('bell', 0, 1);
      climb.run(0, 504);
      climb.move('bell', 504, 0);
      climb.run(508, 1500);
      expect(stepsOf(climb.bytes)).toEqual([1, 1, 1, 1, 1]);
    });
    it('are no others because the rig was read anew, given another name or range, or because a note became one', () => {
      const rig = testRig([{ message, gate: { on: 0.6, off: 0.6, press: 'toggle' } }]);
      const edits = [{}, { name: 'Another' }, { gate: { on: 0.5, off: 0.5, press: 'toggle' as const } }, { shaping: { smoothing: { kind: 'onePole' as const, timeConstantMs: 0 } } }];
      for (const edit of edits) {
        const { engine, move, run, bytes } = play(rig);
        move('fog', 0, 0.9);
        run(0, 96);
        expect(stepsOf(bytes)).toEqual([10]);
        engine.take({ kind: 'rig', rig: { ...rig, mappings: [{ ...rig.mappings[0]!, ...edit }] }, timeMs: 100 });
        run(100, 300);
        expect(stepsOf(bytes), JSON.stringify(edit)).toEqual([]);
        move('fog', 300, 0);
        move('fog', 400, 0.9);
        run(400, 500);
        expect(stepsOf(bytes), JSON.stringify(edit)).toEqual([-10]);
      }
      const note = testRig([{ message: { kind: 'note', channel: 1, note: 60, velocity: 100 } }]);
      const { engine, move, run, bytes } = play(note);
      move('fog', 0, 0.7);
      run(0, 96);
      bytes();
      engine.take({ kind: 'rig', rig: { ...note, mappings: [{ ...note.mappings[0]!, message }] }, timeMs: 100 });
      run(100, 300);
      expect(bytes()).toEqual(['80 3C 40']);
      move('fog', 300, 0.8);
      expect(stepsOf(bytes)).toEqual([1]);
    });
  });
});

describe('clock, transport and machine control', () => {
  const clocked = (): RigDocument => {
    const rig = testRig([]);
    rig.outputs[0]!.sendsClock = true;
    return rig;
  };
  it('the clock ticks 24 times a quarter note: at 120 bpm every 20.833 ms (MIDI 1.0)', () => {
    const { run, sent } = play(clocked());
    run(0, 10_004);
    expect(sent.every(({ bytes }) => bytes[0] === 0xf8)).toBe(true);
    expect(sent).toHaveLength(481);
    expect(sent[480]!.timeMs - sent[0]!.timeMs).toBeCloseTo(480 * 20.8333, 1);
  });
  it.each<[MessageSpec, string]>([
    [{ kind: 'transport', action: 'start' }, 'FA'],
    [{ kind: 'transport', action: 'continue' }, 'FB'],
    [{ kind: 'transport', action: 'stop' }, 'FC'],
    [{ kind: 'machine', device: 127, command: 'recordStrobe' }, 'F0 7F 7F 06 06 F7'],
    [{ kind: 'machine', device: 127, command: 'stop' }, 'F0 7F 7F 06 01 F7'],
  ])('%j is %s on every press (MIDI 1.0; MMC, RP-013)', (message, expected) => {
    const { move, bytes } = playing({ signal: 'bell', message });
    for (const value of [1, 0, 1, 0]) move('bell', 0, value);
    expect(bytes()).toEqual([expected, expected]);
  });
});

describe('several mappings on one address', () => {
  const two = (merge: 'latest' | 'highest' | 'lowest' | 'sum' | 'average') => {
    const { move, bytes } = playing({ merge }, { merge, signal: 'bell' });
    move('fog', 0, 40 / 127);
    move('bell', 0, 20 / 127);
    move('fog', 0, 60 / 127);
    return bytes().map((row) => parseInt(row.slice(6), 16));
  };
  it('take the latest', () => expect(two('latest')).toEqual([40, 20, 60]));
  it('of two that are smoothed there the same one speaks last after an edit', () => {
    const shaping = { smoothing: { kind: 'onePole' as const, timeConstantMs: 300 } };
    const heard = (signals: [string, string], edited: boolean) => {
      const rig = testRig([{ shaping }, { shaping, signal: 'fog.touch' }]);
      const { move, run, bytes, engine } = play(rig);
      for (const value of [0, 1]) for (const signal of signals) move(signal, value * 100, value * (signal === 'fog' ? 1 : 0.5));
      run(100, 200);
      if (edited) engine.take({ kind: 'rig', rig: { ...rig, mappings: rig.mappings.map((mapping) => ({ ...mapping, name: 'Another' })) }, timeMs: 200 });
      run(204, 400);
      return bytes();
    };
    expect(heard(['fog', 'fog.touch'], true)).toEqual(heard(['fog', 'fog.touch'], false));
    expect(heard(['fog.touch', 'fog'], true)).toEqual(heard(['fog.touch', 'fog'], false));
    expect(heard(['fog.touch', 'fog'], false).at(-1)).not.toEqual(heard(['fog', 'fog.touch'], false).at(-1));
  });
  it('take the highest', () => expect(two('highest')).toEqual([40, 60]));
  it('take the lowest', () => expect(two('lowest')).toEqual([40, 20]));
  it('take the sum', () => expect(two('sum')).toEqual([40, 60, 80]));
  it('take the average', () => expect(two('average')).toEqual([40, 30, 40]));
  it('count without one that is switched off by a scene', () => {
    const rig = testRig([{ merge: 'highest' }, { merge: 'highest', signal: 'bell' }]);
    rig.scenes = [{ id: 'quiet', name: 'Quiet', mappings: { m1: false }, pages: {}, values: {}, messages: [], glideMs: 0 }];
    const { move, bytes, engine } = play(rig);
    move('fog', 0, 40 / 127);
    move('bell', 0, 1);
    bytes();
    engine.take({ kind: 'recall', scene: 'quiet', timeMs: 1 });
    expect(bytes()).toEqual(['B2 15 28']);
  });
  it.each<[string, (rig: RigDocument) => RigDocument['mappings']]>([
    ['is removed', (rig) => [rig.mappings[0]!]],
    ['moves to another address', (rig) => [rig.mappings[0]!, { ...rig.mappings[1]!, message: { kind: 'controlChange', channel: 3, controller: 22, range: full } }]],
  ])('count without one that %s, down to one alone', (_, without) => {
    const rig = testRig([{ merge: 'highest' }, { merge: 'highest', signal: 'bell' }]);
    const { move, bytes, engine } = play(rig);
    move('fog', 0, 40 / 127);
    move('bell', 0, 1);
    bytes();
    engine.take({ kind: 'rig', rig: { ...rig, mappings: without(rig) }, timeMs: 1 });
    expect(bytes().filter((row) => row.startsWith('B2 15'))).toEqual(['B2 15 28']);
    move('fog', 2, 50 / 127);
    expect(bytes()).toEqual(['B2 15 32']);
  });
});
