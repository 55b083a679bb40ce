import { SAYS, VOICE_FIELDS, type VoiceEvent } from '../core/voices/event';
import { FRAME, SAMPLE_HEADER, writeSampleHeader } from './frames';

/**
 * The binary frames of voices: what fingers do, from a page to the hub, and what sounds of a voice mapping, from the hub to a
 * page. Little-endian; streams and voice mappings by the numbers that the hub handed out, those of a page's devices by numbers of
 * that page alone.
 */

/** What a page says of a voice: numbers of its own for voices, what is not said NaN. */
export type SaidVoice = Omit<VoiceEvent, 'stream'> & { stream: number };

const KINDS = ['on', 'move', 'off'] as const satisfies readonly VoiceEvent['kind'][];
/** u16 stream, u16 voice, u8 kind, 3 zero, then five f32: pitch, strike, pressure, slide, release; NaN where nothing is said. */
const ENTRY = 8 + 4 * VOICE_FIELDS.length;

/** The header is that of samples. */
export function encodeVoices(sequence: number, hubTimeMs: number, voices: readonly SaidVoice[], onPageMs = 0, kind: typeof FRAME.voices | typeof FRAME.feedVoices = FRAME.voices): ArrayBuffer {
  const buffer = new ArrayBuffer(SAMPLE_HEADER + ENTRY * voices.length);
  const view = new DataView(buffer);
  writeSampleHeader(view, kind, voices.length, sequence, hubTimeMs, onPageMs);
  voices.forEach((voice, i) => {
    const at = SAMPLE_HEADER + ENTRY * i;
    view.setUint16(at, voice.stream, true);
    view.setUint16(at + 2, voice.voice, true);
    view.setUint8(at + 4, KINDS.indexOf(voice.kind));
    VOICE_FIELDS.forEach((field, f) => view.setFloat32(at + 8 + 4 * f, SAYS[voice.kind].includes(field) ? voice[field] : NaN, true));
  });
  return buffer;
}

/** Why a frame is not a legal frame of voices, or null where it is one. */
export function voicesFault(view: DataView): { field: string; message: string } | null {
  if (view.byteLength < SAMPLE_HEADER) return { field: 'length', message: `A frame of voices has at least ${SAMPLE_HEADER} bytes, found ${view.byteLength}.` };
  const count = view.getUint8(1);
  if (view.byteLength !== SAMPLE_HEADER + ENTRY * count) return { field: 'count', message: `A frame of ${count} voices has ${SAMPLE_HEADER + ENTRY * count} bytes, found ${view.byteLength}.` };
  if (!Number.isFinite(view.getFloat64(8, true))) return { field: 'hubTimeMs', message: 'The time of a frame must be a finite number.' };
  for (let i = 0; i < count; i++) {
    const at = SAMPLE_HEADER + ENTRY * i;
    if (view.getUint8(at + 4) >= KINDS.length) return { field: `voices[${i}].kind`, message: `The kind of a voice event is 0, 1 or 2, found ${view.getUint8(at + 4)}.` };
    if (view.getUint8(at + 4) === 0 && !Number.isFinite(view.getFloat32(at + 8, true))) return { field: `voices[${i}].pitch`, message: 'A voice begins with a pitch.' };
  }
  return null;
}

/** Reads one entry of a legal frame into an event that is there already. */
export function readVoice(view: DataView, i: number, into: VoiceEvent): void {
  const at = SAMPLE_HEADER + ENTRY * i;
  into.stream = view.getUint16(at, true);
  into.voice = view.getUint16(at + 2, true);
  into.kind = KINDS[view.getUint8(at + 4)]!;
  into.pitch = view.getFloat32(at + 8, true);
  into.strike = view.getFloat32(at + 12, true);
  into.pressure = view.getFloat32(at + 16, true);
  into.slide = view.getFloat32(at + 20, true);
  into.release = view.getFloat32(at + 24, true);
}

/** One voice that a voice mapping plays. */
export interface ShownVoice {
  voice: number;
  /** As it leaves, in semitones. */
  pitch: number;
  strike: number;
  pressure: number;
  slide: number;
}

const LIVES_HEADER = 4;
/** u16 voice, u16 zero, f32 pitch, f32 strike, f32 pressure, f32 slide. */
const LIFE = 20;

/** What sounds of a voice mapping now: u8 kind, u8 zero, u16 number; then the voices. */
export function encodeShownVoices(mapping: number, voices: readonly ShownVoice[]): ArrayBuffer {
  const view = new DataView(new ArrayBuffer(LIVES_HEADER + LIFE * voices.length));
  view.setUint8(0, FRAME.shownVoices);
  view.setUint16(2, mapping, true);
  voices.forEach(({ voice, pitch, strike, pressure, slide }, i) => {
    const at = LIVES_HEADER + LIFE * i;
    view.setUint16(at, voice, true);
    [pitch, strike, pressure, slide].forEach((value, f) => view.setFloat32(at + 4 + 4 * f, value, true));
  });
  return view.buffer as ArrayBuffer;
}

export function decodeShownVoices(view: DataView): { mapping: number; voices: ShownVoice[] } | null {
  if (view.byteLength < LIVES_HEADER || (view.byteLength - LIVES_HEADER) % LIFE !== 0) return null;
  const voices: ShownVoice[] = [];
  for (let at = LIVES_HEADER; at < view.byteLength; at += LIFE) {
    const float = (f: number) => view.getFloat32(at + 4 + 4 * f, true);
    voices.push({ voice: view.getUint16(at, true), pitch: float(0), strike: float(1), pressure: float(2), slide: float(3) });
  }
  return { mapping: view.getUint16(2, true), voices };
}
