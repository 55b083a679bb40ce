import { describe, expect, it } from 'vitest';
import type { ControlOf, PitchField } from '../rig/document';
import { beginVoice, moveVoice, padNote, strikeOfGrowth, type VoiceControl } from './voiceTouch';

const base = { id: 'c', label: '', signals: {}, stream: 's' };
const at = (x: number, y: number, more: object = {}) => ({ at: { x, y }, size: 0, ...more });

/** Three rows a fifth apart, two octaves each, 240 wide and 300 high from (10, 20). */
const field = (more: Partial<PitchField> = {}): ControlOf<'pitchField'> => ({ ...base, kind: 'pitchField', frame: { x: 10, y: 20, width: 240, height: 300 }, rows: 3, low: 48, span: 24, interval: 7, strikeFrom: 'fixed', pressureFrom: 'travel', across: false, ...more });

describe('a pitch field', () => {
  it.each([
    [10, 319, 48, 0.01],
    [130, 270, 60, 0.5],
    [250, 221, 72, 0.99],
    [10, 219, 55, 0.01],
    [130, 21, 74, 0.99],
  ])('at %i, %i is the pitch %d, its slide by the place in the row', (x, y, pitch, slide) => {
    const { place } = beginVoice(field(), at(x, y))!;
    expect([place.pitch, Number(place.slide.toFixed(2))]).toEqual([pitch, slide]);
  });
  it('keeps its row when the finger leaves it, unless rows may be crossed', () => {
    const begun = beginVoice(field(), at(130, 270))!;
    expect(moveVoice(field(), begun.touch, at(130, 170))).toMatchObject({ pitch: 60, slide: 1 });
    const across = field({ across: true });
    expect(moveVoice(across, beginVoice(across, at(130, 270))!.touch, at(130, 170))).toMatchObject({ pitch: 67, slide: 0.5 });
  });
  it('glides without steps, also beyond its ends', () => {
    const begun = beginVoice(field(), at(130, 270))!;
    expect(moveVoice(field(), begun.touch, at(133, 270))!.pitch).toBeCloseTo(60.3, 9);
    expect(moveVoice(field(), begun.touch, at(-110, 270))!.pitch).toBe(36);
  });
  it.each([
    ['travel', {}, [0, 0.5]],
    ['size', { size: 35 }, [0.5, 0.5]],
    ['force', { force: 0.7 }, [0.7, 0.7]],
  ] as const)('is pressed by %s', (pressureFrom, finger, [first, then]) => {
    const control = field({ pressureFrom });
    const { touch, place } = beginVoice(control, at(130, 270, finger))!;
    expect([place.pressure, moveVoice(control, touch, at(130, 210, finger))!.pressure]).toEqual([first, then]);
  });
  it('is struck the same always, or by its size where the device has one', () => {
    expect(beginVoice(field(), at(130, 270))!.place.strike).toBeCloseTo(100 / 127, 9);
    expect(beginVoice(field({ strikeFrom: 'size' }), at(130, 270, { size: 7 }))!.place.strike).toBeCloseTo(0.1, 9);
    expect(beginVoice(field({ strikeFrom: 'size' }), at(130, 270))!.place.strike).toBeCloseTo(100 / 127, 9);
  });
  it('a touch that grows more quickly is struck harder; one that does not grow as always', () => expect([strikeOfGrowth(20, 20), strikeOfGrowth(40, 20), strikeOfGrowth(80, 20), strikeOfGrowth(0, 20)]).toEqual([0.5, 1, 1, 100 / 127]));
});

describe('keys and pads', () => {
  const keys: VoiceControl = { ...base, kind: 'keys', frame: { x: 0, y: 0, width: 700, height: 100 }, low: 60, high: 71, strength: 'position' };
  it('a key that is slid onto is another voice; the same one moves', () => {
    const { touch, place } = beginVoice(keys, at(50, 90))!;
    expect(place).toMatchObject({ pitch: 60, strike: 0.9 });
    expect(moveVoice(keys, touch, at(60, 50))).toMatchObject({ pitch: 60, slide: 0.5 });
    expect(moveVoice(keys, touch, at(150, 90))).toBeNull();
    // Off the board it stays on its key.
    expect(moveVoice(keys, touch, at(50, 400))).toMatchObject({ pitch: 60 });
    expect(beginVoice(keys, at(50, 400))).toBeNull();
  });
  it('pads count from the lower left, and keep their finger', () => {
    const pads: VoiceControl = { ...base, kind: 'pads', frame: { x: 0, y: 0, width: 400, height: 400 }, columns: 4, rows: 4, strength: 'fixed', low: 40 };
    expect([12, 15, 8, 3].map((cell) => padNote({ columns: 4, rows: 4, low: 40 }, cell))).toEqual([40, 43, 44, 55]);
    const { touch, place } = beginVoice(pads, at(50, 350))!;
    expect([place.pitch, moveVoice(pads, touch, at(350, 50))!.pitch]).toEqual([40, 40]);
  });
});
