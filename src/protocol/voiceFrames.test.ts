import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { voiceEvent } from '../core/voices/event';
import { sampleCount, sampleOnPageMs, sampleTimeMs } from './frames';
import { decodeShownVoices, encodeShownVoices, encodeVoices, readVoice, voicesFault } from './voiceFrames';

const view = (buffer: ArrayBuffer) => new DataView(buffer);
const on = { ...voiceEvent('on'), stream: 3, voice: 7, pitch: 60.25, strike: 0.5, pressure: 0.25, slide: 1 };

describe('a frame of voices', () => {
  it('comes out as it went in; what an event of its kind does not say is not said', () => {
    const frame = view(encodeVoices(9, 1234.5, [on, { ...on, kind: 'move', strike: 0.9, pitch: NaN }, { ...on, kind: 'off', release: 0.75 }], 12.3));
    expect(voicesFault(frame)).toBeNull();
    expect([sampleCount(frame), sampleTimeMs(frame), sampleOnPageMs(frame)]).toEqual([3, 1234.5, 12.3]);
    const read = [0, 1, 2].map((i) => {
      const into = voiceEvent();
      readVoice(frame, i, into);
      return into;
    });
    const none = { strike: NaN, release: NaN };
    expect(read).toEqual([{ ...on, release: NaN }, { ...on, ...none, kind: 'move', pitch: NaN }, { ...on, ...none, kind: 'off', pitch: NaN, pressure: NaN, slide: NaN, release: 0.75 }]);
  });
  it('its bytes, worked out by hand: kind 10, one entry of 28 after 16, little-endian, 60.25 = 42 71 00 00', () => {
    const bytes = new Uint8Array(encodeVoices(1, 0, [on]));
    expect([bytes.length, bytes[0], bytes[1]]).toEqual([44, 10, 1]);
    expect([...bytes.slice(16, 28)]).toEqual([3, 0, 7, 0, 0, 0, 0, 0, 0x00, 0x00, 0x71, 0x42]);
  });
  it.each([
    ['too short', encodeVoices(0, 0, [on]).slice(0, 9), 'length'],
    ['cut', encodeVoices(0, 0, [on]).slice(0, 40), 'count'],
    ['without a time', encodeVoices(0, NaN, [on]), 'hubTimeMs'],
    ['that begins without a pitch', encodeVoices(0, 0, [{ ...on, pitch: NaN }]), 'voices[0].pitch'],
    ['of a kind that there is not', ((buffer) => (new Uint8Array(buffer).fill(9, 20, 21), buffer))(encodeVoices(0, 0, [on])), 'voices[0].kind'],
  ])('%s is refused with its field', (_, buffer, field) => expect(voicesFault(view(buffer))?.field).toBe(field));
  it('whatever bytes come are a legal frame or have a fault', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 120 }), (bytes) => {
        const frame = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
        if (voicesFault(frame) === null) for (let i = 0; i < sampleCount(frame); i++) readVoice(frame, i, voiceEvent());
        decodeShownVoices(frame);
      }),
    );
  });
});

it('what sounds of a voice mapping comes out as it went in, also nothing', () => {
  const voices = [{ voice: 7, pitch: 60.5, strike: 0.5, pressure: 0.25, slide: 1 }, { voice: 8, pitch: 72, strike: 1, pressure: 0, slide: 0 }];
  expect(decodeShownVoices(view(encodeShownVoices(12, voices)))).toEqual({ mapping: 12, voices });
  expect(decodeShownVoices(view(encodeShownVoices(12, [])))).toEqual({ mapping: 12, voices: [] });
  expect(decodeShownVoices(view(encodeShownVoices(12, voices).slice(0, 30)))).toBeNull();
});
