import { WHO, type Who } from '../core/engine/sink';
import { LIMITS } from './limits';

/**
 * The binary frames of the live line. Little-endian. Every writer stands beside its reader; a reader trusts nothing and
 * gives null (or a named reason) for bytes that are not exactly a legal frame.
 *
 * | byte 0 | frame | direction |
 * |---|---|---|
 * | 1 | samples: what a finger did | page to hub |
 * | 2 | signal values | hub to page |
 * | 3 | mapping levels | hub to page |
 * | 4 | what a receiver hears | hub to page |
 * | 5 | monitor facts | hub to page and web process |
 * | 6 | values of a page's feeds, as samples are | page to hub |
 * | 7 | MIDI bytes that a page heard | page to hub |
 * | 8 | every raw number of some signals | hub to page |
 * | 9 | MIDI bytes for a port that the page lends | hub to page |
 * | 10 | voices: what fingers play, see `voiceFrames` | page to hub |
 * | 11 | what sounds of a voice mapping | hub to page |
 * | 12 | voices of a page's feeds, as voices are | page to hub |
 * | 13 | samples of what was held while the line was down, as samples are | page to hub |
 * | 14 | the same of a page's feeds | page to hub |
 *
 * Signals, mappings and outputs are named by the numbers that the hub handed out in its `names` message.
 */
export const FRAME = { samples: 1, values: 2, levels: 3, heard: 4, facts: 5, sources: 6, midi: 7, captured: 8, write: 9, voices: 10, shownVoices: 11, feedVoices: 12, heldOn: 13, sourcesHeldOn: 14 } as const;

/** The frames that are written and read as samples are. */
const SAMPLED = [FRAME.samples, FRAME.sources, FRAME.heldOn, FRAME.sourcesHeldOn] as const;

export const SAMPLE_HEADER = 16;
const SAMPLE_ENTRY = 8;
const TENTHS = 10;

/**
 * Samples: u8 kind, u8 count, u16 how long they were at the page before they left it, in tenths of ms (less than 6.6 s), u32
 * sequence, f64 hubTimeMs; then count times u16 signal, u16 zero, f32 value.
 */
export function encodeSamples(
  sequence: number,
  hubTimeMs: number,
  samples: readonly { signal: number; value: number }[],
  kind: (typeof SAMPLED)[number] = FRAME.samples,
  onPageMs = 0,
): ArrayBuffer {
  const buffer = new ArrayBuffer(SAMPLE_HEADER + SAMPLE_ENTRY * samples.length);
  const view = new DataView(buffer);
  writeSampleHeader(view, kind, samples.length, sequence, hubTimeMs, onPageMs);
  samples.forEach(({ signal, value }, i) => {
    view.setUint16(SAMPLE_HEADER + SAMPLE_ENTRY * i, signal, true);
    view.setFloat32(SAMPLE_HEADER + SAMPLE_ENTRY * i + 4, value, true);
  });
  return buffer;
}

/** What stands before samples, and before voices. */
export function writeSampleHeader(view: DataView, kind: number, count: number, sequence: number, hubTimeMs: number, onPageMs: number): void {
  view.setUint8(0, kind);
  view.setUint8(1, count);
  view.setUint16(2, Math.min(0xffff, Math.max(0, Math.round(TENTHS * onPageMs))), true);
  view.setUint32(4, sequence, true);
  view.setFloat64(8, hubTimeMs, true);
}

/** Why a frame is not a legal samples frame, or null where it is one. Entries are read in place, see below. */
export function samplesFault(view: DataView): { field: string; message: string } | null {
  if (view.byteLength < 1 || !(SAMPLED as readonly number[]).includes(view.getUint8(0))) {
    return { field: 'kind', message: 'A page may send frames of samples, sources, MIDI and voices only (first byte 1, 6, 7, 10, 12, 13 or 14).' };
  }
  if (view.byteLength < SAMPLE_HEADER) {
    return { field: 'length', message: `A samples frame has at least ${SAMPLE_HEADER} bytes, found ${view.byteLength}.` };
  }
  const count = view.getUint8(1);
  if (view.byteLength !== SAMPLE_HEADER + SAMPLE_ENTRY * count) {
    return { field: 'count', message: `A frame of ${count} samples has ${SAMPLE_HEADER + SAMPLE_ENTRY * count} bytes, found ${view.byteLength}.` };
  }
  if (!Number.isFinite(view.getFloat64(8, true))) return { field: 'hubTimeMs', message: 'The time of a frame must be a finite number.' };
  return null;
}

/** Whether it may be a frame of what fingers did: long enough to have a sequence. */
export const isSampled = (view: DataView) => view.byteLength >= SAMPLE_HEADER && (view.getUint8(0) === FRAME.samples || view.getUint8(0) === FRAME.heldOn);

/** Reading a legal samples frame without allocation. */
export const sampleCount = (view: DataView) => view.getUint8(1);
export const sampleOnPageMs = (view: DataView) => view.getUint16(2, true) / TENTHS;
export const sampleSequence = (view: DataView) => view.getUint32(4, true);
export const sampleTimeMs = (view: DataView) => view.getFloat64(8, true);
export const sampleSignal = (view: DataView, i: number) => view.getUint16(SAMPLE_HEADER + SAMPLE_ENTRY * i, true);
export const sampleValue = (view: DataView, i: number) => view.getFloat32(SAMPLE_HEADER + SAMPLE_ENTRY * i + 4, true);

export interface NumberedValues {
  hubTimeMs: number;
  /**
   * So far the hub has heard the page: the sequence after that of the last frame of samples, 0 before the first. What a page sent of a
   * signal in a frame from there on is newer than the value it is told.
   */
  heardUpTo: number;
  numbers: number[];
  values: number[];
}

const VALUE_HEADER = 16;
const VALUE_ENTRY = 6;

/** Values or levels: u8 kind, u8 zero, u16 count, u32 heard up to, f64 hubTimeMs; then count times u16 number, f32 value. */
export function encodeValues(kind: typeof FRAME.values | typeof FRAME.levels, { hubTimeMs, heardUpTo, numbers, values }: NumberedValues): ArrayBuffer {
  const buffer = new ArrayBuffer(VALUE_HEADER + VALUE_ENTRY * numbers.length);
  const view = new DataView(buffer);
  view.setUint8(0, kind);
  view.setUint16(2, numbers.length, true);
  view.setUint32(4, heardUpTo, true);
  view.setFloat64(8, hubTimeMs, true);
  numbers.forEach((number, i) => {
    view.setUint16(VALUE_HEADER + VALUE_ENTRY * i, number, true);
    view.setFloat32(VALUE_HEADER + VALUE_ENTRY * i + 2, values[i]!, true);
  });
  return buffer;
}

export function decodeValues(view: DataView): NumberedValues | null {
  if (view.byteLength < VALUE_HEADER) return null;
  const count = view.getUint16(2, true);
  if (view.byteLength !== VALUE_HEADER + VALUE_ENTRY * count) return null;
  const numbers: number[] = [];
  const values: number[] = [];
  for (let i = 0; i < count; i++) {
    numbers.push(view.getUint16(VALUE_HEADER + VALUE_ENTRY * i, true));
    values.push(view.getFloat32(VALUE_HEADER + VALUE_ENTRY * i + 2, true));
  }
  return { hubTimeMs: view.getFloat64(8, true), heardUpTo: view.getUint32(4, true), numbers, values };
}

/** One address of a receiver and what it holds: a controller's value, a note's velocity (0: silent), a bend. */
export interface Heard {
  kind: 'controlChange' | 'note' | 'pitchBend';
  channel: number;
  number: number;
  value: number;
}

const HEARD_KINDS = ['controlChange', 'note', 'pitchBend'] as const;
const HEARD_HEADER = 4;
const HEARD_ENTRY = 5;

/** Heard: u8 kind, u8 zero, u16 output; then per address u8 kind, u8 channel, u8 number, u16 value. */
export function encodeHeard(output: number, heard: readonly Heard[]): ArrayBuffer {
  const buffer = new ArrayBuffer(HEARD_HEADER + HEARD_ENTRY * heard.length);
  const view = new DataView(buffer);
  view.setUint8(0, FRAME.heard);
  view.setUint16(2, output, true);
  heard.forEach(({ kind, channel, number, value }, i) => {
    const at = HEARD_HEADER + HEARD_ENTRY * i;
    view.setUint8(at, HEARD_KINDS.indexOf(kind));
    view.setUint8(at + 1, channel);
    view.setUint8(at + 2, number);
    view.setUint16(at + 3, value, true);
  });
  return buffer;
}

export function decodeHeard(view: DataView): { output: number; heard: Heard[] } | null {
  if (view.byteLength < HEARD_HEADER || (view.byteLength - HEARD_HEADER) % HEARD_ENTRY !== 0) return null;
  const heard: Heard[] = [];
  for (let at = HEARD_HEADER; at < view.byteLength; at += HEARD_ENTRY) {
    const kind = HEARD_KINDS[view.getUint8(at)];
    if (!kind) return null;
    heard.push({ kind, channel: view.getUint8(at + 1), number: view.getUint8(at + 2), value: view.getUint16(at + 3, true) });
  }
  return { output: view.getUint16(2, true), heard };
}

/** Something that entered (a signal's value) or left (a message, the mapping it came from, by number or null, and how late it was; null where no performer caused it). */
export type Fact =
  | { direction: 'in'; hubTimeMs: number; signal: number; value: number }
  | { direction: 'out'; hubTimeMs: number; output: number; who: Who; mapping: number | null; delayMs: number | null; bytes: Uint8Array };

const FACTS_HEADER = 8;
const FACT_HEADER = 16;
const NO_MAPPING = 0xffff;
/** Before the bytes of what left: f32 how late, NaN for null. */
const DELAY = 4;

/** Facts: u8 kind, 3 zero, u32 dropped; then per fact f64 hubTimeMs, u8 direction, u8 who, u16 length, u16, u16, payload. */
export function encodeFacts(facts: readonly Fact[], dropped: number): ArrayBuffer {
  const lengthOf = (fact: Fact) => (fact.direction === 'in' ? 4 : DELAY + Math.min(fact.bytes.length, LIMITS.factBytes));
  const buffer = new ArrayBuffer(facts.reduce((size, fact) => size + FACT_HEADER + lengthOf(fact), FACTS_HEADER));
  const view = new DataView(buffer);
  view.setUint8(0, FRAME.facts);
  view.setUint32(4, dropped, true);
  let at = FACTS_HEADER;
  for (const fact of facts) {
    const length = lengthOf(fact);
    view.setFloat64(at, fact.hubTimeMs, true);
    view.setUint16(at + 10, length, true);
    if (fact.direction === 'in') {
      view.setUint16(at + 12, fact.signal, true);
      view.setFloat32(at + FACT_HEADER, fact.value, true);
    } else {
      view.setUint8(at + 8, 1);
      view.setUint8(at + 9, WHO.indexOf(fact.who));
      view.setUint16(at + 12, fact.output, true);
      view.setUint16(at + 14, fact.mapping ?? NO_MAPPING, true);
      view.setFloat32(at + FACT_HEADER, fact.delayMs ?? NaN, true);
      new Uint8Array(buffer).set(fact.bytes.subarray(0, length - DELAY), at + FACT_HEADER + DELAY);
    }
    at += FACT_HEADER + length;
  }
  return buffer;
}

export function decodeFacts(view: DataView): { facts: Fact[]; dropped: number } | null {
  if (view.byteLength < FACTS_HEADER) return null;
  const facts: Fact[] = [];
  let at = FACTS_HEADER;
  while (at < view.byteLength) {
    if (at + FACT_HEADER > view.byteLength) return null;
    const length = view.getUint16(at + 10, true);
    const payload = at + FACT_HEADER;
    if (payload + length > view.byteLength) return null;
    const hubTimeMs = view.getFloat64(at, true);
    if (view.getUint8(at + 8) === 0) {
      if (length !== 4) return null;
      facts.push({ direction: 'in', hubTimeMs, signal: view.getUint16(at + 12, true), value: view.getFloat32(payload, true) });
    } else {
      const mapping = view.getUint16(at + 14, true);
      const who = WHO[view.getUint8(at + 9)];
      if (who === undefined || length < DELAY) return null;
      const delayMs = view.getFloat32(payload, true);
      const bytes = new Uint8Array(view.buffer.slice(view.byteOffset + payload + DELAY, view.byteOffset + payload + length));
      facts.push({ direction: 'out', hubTimeMs, output: view.getUint16(at + 12, true), who, mapping: mapping === NO_MAPPING ? null : mapping, delayMs: Number.isNaN(delayMs) ? null : delayMs, bytes });
    }
    at = payload + length;
  }
  return { facts, dropped: view.getUint32(4, true) };
}

const MIDI_HEADER = 12;

/** MIDI bytes: u8 kind, u8 zero, u16 feed number, f64 hubTimeMs; then the bytes, whole messages or pieces of them. */
export function encodeMidi(feed: number, hubTimeMs: number, bytes: ArrayLike<number>): ArrayBuffer {
  const buffer = new ArrayBuffer(MIDI_HEADER + bytes.length);
  const view = new DataView(buffer);
  view.setUint8(0, FRAME.midi);
  view.setUint16(2, feed, true);
  view.setFloat64(4, hubTimeMs, true);
  new Uint8Array(buffer, MIDI_HEADER).set(bytes);
  return buffer;
}

export function decodeMidi(view: DataView): { feed: number; hubTimeMs: number; bytes: Uint8Array } | null {
  if (view.byteLength < MIDI_HEADER || view.getUint8(0) !== FRAME.midi) return null;
  const hubTimeMs = view.getFloat64(4, true);
  if (!Number.isFinite(hubTimeMs)) return null;
  return { feed: view.getUint16(2, true), hubTimeMs, bytes: new Uint8Array(view.buffer, view.byteOffset + MIDI_HEADER, view.byteLength - MIDI_HEADER) };
}

const WRITE_HEADER = 4;

/** Bytes for a lent port: u8 kind, u8 zero, u16 its number; then whole messages. */
export function encodeWrite(port: number, bytes: Uint8Array): ArrayBuffer {
  const buffer = new ArrayBuffer(WRITE_HEADER + bytes.length);
  const view = new DataView(buffer);
  view.setUint8(0, FRAME.write);
  view.setUint16(2, port, true);
  new Uint8Array(buffer, WRITE_HEADER).set(bytes);
  return buffer;
}

export function decodeWrite(view: DataView): { port: number; bytes: Uint8Array } | null {
  if (view.byteLength <= WRITE_HEADER || view.getUint8(0) !== FRAME.write) return null;
  return { port: view.getUint16(2, true), bytes: new Uint8Array(view.buffer, view.byteOffset + WRITE_HEADER, view.byteLength - WRITE_HEADER) };
}

/** A raw number as it arrived, before calibration. */
export interface Captured {
  signal: number;
  timeMs: number;
  value: number;
}

const CAPTURED_HEADER = 8;
const CAPTURED_ENTRY = 18;

/** Captured: u8 kind, 3 zero, u32 dropped; then per number u16 signal, f64 hubTimeMs, f64 value. */
export function encodeCaptured(captured: readonly Captured[], dropped: number): ArrayBuffer {
  const buffer = new ArrayBuffer(CAPTURED_HEADER + CAPTURED_ENTRY * captured.length);
  const view = new DataView(buffer);
  view.setUint8(0, FRAME.captured);
  view.setUint32(4, dropped, true);
  captured.forEach(({ signal, timeMs, value }, i) => {
    const at = CAPTURED_HEADER + CAPTURED_ENTRY * i;
    view.setUint16(at, signal, true);
    view.setFloat64(at + 2, timeMs, true);
    view.setFloat64(at + 10, value, true);
  });
  return buffer;
}

export function decodeCaptured(view: DataView): { captured: Captured[]; dropped: number } | null {
  if (view.byteLength < CAPTURED_HEADER || (view.byteLength - CAPTURED_HEADER) % CAPTURED_ENTRY !== 0) return null;
  const captured: Captured[] = [];
  for (let at = CAPTURED_HEADER; at < view.byteLength; at += CAPTURED_ENTRY) {
    captured.push({ signal: view.getUint16(at, true), timeMs: view.getFloat64(at + 2, true), value: view.getFloat64(at + 10, true) });
  }
  return { captured, dropped: view.getUint32(4, true) };
}
