import { describe, expect, it } from 'vitest';
import { Learner } from './learner';
import type { Layout } from '../receivers/layout';
import { frequencyOf, Part } from './part';

/** A part and what it did, frequencies in cents from A4. */
function made(bendRangeSemitones = 2, layout?: Layout, parts = false) {
  const log: string[] = [];
  const cents = (frequencyHz: number) => Math.round(1200 * Math.log2(frequencyHz / 440));
  const part = new Part({ instrument: 'struck', learned: [{ parameter: 'ring', channel: 3, controller: 21 }], parts }, { bendRangeSemitones, ...(layout && { layout }) }, {
    strike: (key, hz, strength) => log.push(`strike ${key} ${cents(hz)} ${strength.toFixed(2)}`),
    release: (key) => log.push(`release ${key}`),
    tune: (key, hz) => log.push(`tune ${key} ${cents(hz)}`),
    hush: () => log.push('hush'),
    set: (parameter, share) => log.push(`${parameter} ${share.toFixed(2)}`),
  });
  const hear = (...messages: string[]) => {
    for (const hex of messages) part.push(Uint8Array.from(hex.split(' '), (byte) => parseInt(byte, 16)));
    return log.splice(0);
  };
  return { hear };
}

describe('an instrument to practise with', () => {
  it('has A4 at 440 Hz and middle C at 261.63 Hz (equal temperament, ISO 16)', () => {
    expect(frequencyOf(69, 0)).toBe(440);
    expect(frequencyOf(60, 0)).toBeCloseTo(261.6256, 3);
  });
  it('strikes, bends what sounds on a channel and nothing else, and releases', () => {
    const { hear } = made();
    expect(hear('90 45 7F', '91 45 40')).toEqual(['strike 197 0 1.00', 'strike 325 0 0.50']);
    expect(hear('E0 7F 7F')).toEqual(['tune 197 200']);
    expect(hear('E0 00 00')).toEqual(['tune 197 -200']);
    expect(hear('80 45 40', '91 45 00')).toEqual(['release 197', 'release 325']);
    expect(hear('90 45 7F')).toEqual(['strike 197 -200 1.00']);
  });
  it('takes its bend range by RPN 0, and bends by 48 semitones where it is set so', () => {
    expect(made(48).hear('90 45 7F', 'E0 7F 7F')[1]).toBe('tune 197 4800');
    expect(made(2).hear('B0 65 00', 'B0 64 00', 'B0 06 0C', '90 45 7F', 'E0 7F 7F').at(-1)).toBe('tune 197 1200');
    expect(made(2).hear('B0 65 7F', 'B0 64 7F', 'B0 06 0C', '90 45 7F', 'E0 7F 7F').at(-1)).toBe('tune 197 200');
  });
  it('moves what was learned by its own controller and channel alone', () => {
    expect(made().hear('B2 15 7F', 'B2 16 7F', 'B1 15 7F', 'B2 15 00')).toEqual(['ring 1.00', 'ring 0.00']);
  });
  it('holds what the pedal holds, and ends all where it is told to', () => {
    const { hear } = made();
    expect(hear('90 45 7F', 'B0 40 7F', '80 45 40')).toEqual(['strike 197 0 1.00']);
    expect(hear('B0 40 00')).toEqual(['release 197']);
    expect(hear('90 45 7F', '90 46 7F', '91 45 7F', 'B0 7B 00').slice(3)).toEqual(['release 197', 'release 198']);
    expect(hear('B1 78 00', '81 45 40')).toEqual(['release 325', 'hush']);
  });
  it('a change of mode ends all notes of its channel, and a reset puts back bend, pedal and what is selected (MIDI 1.0, MMA RP-015)', () => {
    const { hear } = made(2);
    hear('90 45 7F', '91 45 7F');
    expect(hear('B0 7E 01')).toEqual(['release 197']);
    hear('B1 65 00', 'B1 64 00', 'B1 40 7F', 'E1 00 60', '81 45 40');
    expect(hear('B1 79 00')).toEqual(['tune 325 0', 'release 325']);
    expect(hear('B1 06 0C', '91 45 7F', 'E1 7F 7F')).toEqual(['strike 325 0 1.00', 'tune 325 200']);
  });
  it('holds with the sostenuto pedal what was down as it went down, with hold 2 all, and with two pedals until both are up (MIDI 1.0, table III)', () => {
    const { hear } = made();
    hear('90 45 7F', 'B0 42 7F', '90 46 7F');
    expect(hear('80 45 40', '80 46 40')).toEqual(['release 198']);
    expect(hear('B0 42 00')).toEqual(['release 197']);
    hear('90 45 7F', 'B0 45 7F', 'B0 40 7F', '80 45 40');
    expect(hear('B0 45 00')).toEqual([]);
    expect(hear('B0 40 00')).toEqual(['release 197']);
    // Said twice it takes nothing more; a reset lifts it, and not hold 2 (MMA RP-015).
    hear('91 45 7F', 'B1 42 7F', '91 46 7F', 'B1 42 7F', '81 45 40', 'B1 45 7F', '91 47 7F', '81 47 40');
    expect(hear('B1 79 00').filter((said) => said.startsWith('release'))).toEqual([]);
    expect(hear('B1 45 00')).toEqual(['release 325', 'release 327']);
    // What was ended anew is not taken any more.
    hear('92 45 7F', 'B2 42 7F', 'B2 78 00', '92 45 7F');
    expect(hear('82 45 40')).toEqual(['release 453']);
  });
  it('an end of all notes leaves what its pedal holds to the pedal, and an end of all sound does not (MIDI 1.0, all notes off and hold; from memory)', () => {
    const { hear } = made();
    hear('90 45 7F', '90 46 7F', 'B0 40 7F', '80 45 40');
    expect(hear('B0 7B 00')).toEqual([]);
    expect(hear('B0 40 00')).toEqual(['release 197', 'release 198']);
    hear('90 45 7F', 'B0 40 7F');
    expect(hear('B0 78 00')).toEqual(['release 197', 'hush']);
    expect(hear('B0 40 00')).toEqual([]);
  });
  it.each([
    ['B0 63 01', 'B0 62 02'],
    ['B0 63 01'],
    ['B0 62 02'],
  ])('what is entered for an NRPN is no bend range (MIDI 1.0: one parameter is selected at a time): %s', (...selected) => {
    const { hear } = made(2);
    hear('B0 65 00', 'B0 64 00', 'B0 06 0C', ...selected, 'B0 06 05', 'B0 26 32');
    expect(hear('90 45 7F', 'E0 7F 7F').at(-1)).toBe('tune 197 1200');
  });
  it('of parts sounds one note a channel, the newest, and the end of the one before ends nothing', () => {
    const { hear } = made(2, undefined, true);
    expect(hear('90 45 7F', '91 45 7F', '90 46 7F')).toEqual(['strike 197 0 1.00', 'strike 325 0 1.00', 'release 197', 'strike 198 100 1.00']);
    expect(hear('80 45 40')).toEqual([]);
    // Also one that only the pedal holds gives way.
    expect(hear('B0 40 7F', '80 46 40', '90 47 7F', 'B0 40 00')).toEqual(['release 198', 'strike 199 200 1.00']);
    expect(hear('80 47 40', '81 45 40')).toEqual(['release 199', 'release 325']);
  });
  it('in a zone bends each member by itself and all with their manager, ends them with it, and is set up by its message', () => {
    const { hear } = made(48, { kind: 'zone', zone: 'lower', members: 2 });
    // Member 2 up by 48 semitones; the manager up by two of its own.
    expect(hear('91 45 7F', 'E1 7F 7F', 'E0 7F 7F')).toEqual(['strike 325 0 1.00', 'tune 325 4800', 'tune 325 5000']);
    // RPN 0 on one member counts for the other: 12 semitones.
    expect(hear('B2 65 00', 'B2 64 00', 'B2 06 0C')).toEqual(['tune 325 1400']);
    expect(hear('B0 7B 00')).toEqual(['release 325']);
    // A pedal of the manager holds a member's note no longer than that is its member.
    hear('B0 40 7F', '91 45 7F', '81 45 40');
    expect(hear('B0 65 00', 'B0 64 06', 'B0 06 00')).toEqual(['release 325']);
    expect(hear('B0 40 00', '91 45 7F', '81 45 40').slice(-1)).toEqual(['release 325']);
    const plain = made(2);
    expect(plain.hear('B0 65 00', 'B0 64 06', 'B0 06 0F', '91 45 7F', 'E1 7F 7F')).toEqual(['strike 325 0 1.00', 'tune 325 4800']);
  });
});

describe('learning', () => {
  it('takes the one that moves, once it is clear that no other moves with it', () => {
    const learner = new Learner();
    expect(learner.result(5000)).toBe(null);
    learner.moved(1, 12, 1000);
    learner.moved(1, 12, 1020);
    expect(learner.result(1100)).toBe(null);
    expect(learner.result(1400)).toEqual([{ channel: 1, controller: 12 }]);
  });
  it('names all where several move together', () => {
    const learner = new Learner();
    learner.moved(1, 12, 1000);
    learner.moved(1, 13, 1010);
    expect(learner.result(1400)).toEqual([{ channel: 1, controller: 12 }, { channel: 1, controller: 13 }]);
  });
});
