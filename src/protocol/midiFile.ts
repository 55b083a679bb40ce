import { parseMidi, writeMidi, type MidiEvent } from 'midi-file';
import type { Mark } from '../core/takes/take';
import { decode } from '../core/midi/decode';
import { encode } from '../core/midi/encode';
import { STATUS } from '../core/midi/message';
import { LIMITS } from './limits';

/** The one module that knows the package for Standard MIDI Files. */

/** Ticks of a quarter note in the files that we write. */
const TICKS_PER_BEAT = 960;
/** A click of a metronome a quarter note, in MIDI clocks (SMF 1.0, time signature). */
const CLOCKS_PER_CLICK = 24;
/** Where a file says no tempo (SMF 1.0). */
const USUAL_BPM = 120;

/** A message at a time from the beginning of the take, in ms. */
export interface TimedMessage {
  timeMs: number;
  track: string;
  bytes: Uint8Array;
}

/** The tempo in beats a minute from a time on. */
type Tempi = readonly { atMs: number; bpm: number }[];

export interface MidiFileOptions {
  /** So many notes of such a length are a bar. */
  meter?: readonly [many: number, unit: number];
  /** One track for everything, or one for each name. */
  format?: 0 | 1;
  marks?: readonly Mark[];
}

/**
 * A Standard MIDI File (SMF 1.0, RP-001). Format 1: a track with tempo and marks, then one for each name in the order of their
 * first message. Real-time and other system messages have no place in a file and are left out.
 */
export function writeMidiFile(messages: readonly TimedMessage[], tempo: number | Tempi, { format = 1, marks = [], meter }: MidiFileOptions = {}): Uint8Array {
  const tempi = typeof tempo === 'number' ? [{ atMs: 0, bpm: tempo }] : tempo;
  const tickOf = ticksBy(tempi);
  const first = new TrackWriter(tickOf);
  if (meter) first.put(0, { deltaTime: 0, meta: true, type: 'timeSignature', numerator: meter[0], denominator: meter[1], metronome: CLOCKS_PER_CLICK, thirtyseconds: 8 });
  const tempoEvents = tempi.map(({ atMs, bpm }) => ({ timeMs: atMs, track: null, event: { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: microsecondsOf(bpm) } as MidiEvent }));
  const tracks = new Map<string, TrackWriter>();
  const all = [...tempoEvents, ...marks.map(({ atMs, name }) => ({ timeMs: atMs, track: null, event: { deltaTime: 0, meta: true, type: 'marker', text: octetsOf(name) } as MidiEvent })), ...messages.map(({ timeMs, track, bytes }) => ({ timeMs, track, event: toEvent(bytes) }))];
  // Marks came first, and what stands at one time keeps its order.
  all.sort((a, b) => a.timeMs - b.timeMs);
  for (const { timeMs, track, event } of all) {
    if (!event) continue;
    let into = track === null || format === 0 ? first : tracks.get(track);
    if (!into) {
      into = new TrackWriter(tickOf);
      into.put(0, { deltaTime: 0, meta: true, type: 'trackName', text: octetsOf(track!) });
      tracks.set(track!, into);
    }
    into.put(timeMs, event);
  }
  const written = [first, ...tracks.values()].map((track) => chunkOf(track.ended));
  const head = Uint8Array.from(writeMidi({ header: { format, numTracks: written.length, ticksPerBeat: TICKS_PER_BEAT }, tracks: [] }));
  new DataView(head.buffer).setUint16(HEAD_TRACKS, written.length);
  return joined([head, ...written]);
}

/** Where the head of a file says how many tracks there are, where its first track begins, and where the data of a track does. */
const HEAD_TRACKS = 10;
const FIRST_TRACK = 14;
const TRACK_DATA = 8;
/** The package copies all that it has written with each larger delta: an hour at once would take it minutes. */
const EVENTS_AT_ONCE = 400;

/** A track as its chunk. Without running status the bytes of its events do not depend on those before. */
function chunkOf(events: readonly MidiEvent[]): Uint8Array {
  const parts: Uint8Array[] = [];
  for (let at = 0; at < events.length; at += EVENTS_AT_ONCE) {
    const file = writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS_PER_BEAT }, tracks: [events.slice(at, at + EVENTS_AT_ONCE)] }, { running: false });
    parts.push(Uint8Array.from(file.slice(FIRST_TRACK + TRACK_DATA)));
  }
  const data = joined(parts);
  const chunk = new Uint8Array(TRACK_DATA + data.length);
  chunk.set([...'MTrk'].map((letter) => letter.charCodeAt(0)));
  new DataView(chunk.buffer).setUint32(4, data.length);
  chunk.set(data, TRACK_DATA);
  return chunk;
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** A file says tempi as whole microseconds, so that its times are those. */
const microsecondsOf = (bpm: number) => Math.round(60_000_000 / bpm);

/** The tick of a time, by tempi that rise in time; the first is at 0. */
function ticksBy(tempi: Tempi): (timeMs: number) => number {
  let tick = 0;
  const from = tempi.map(({ atMs, bpm }, i) => {
    const before = tempi[i - 1];
    // Where a tempo begins a tempo event stands, on a whole tick.
    if (before) tick = Math.round(tick + ((atMs - before.atMs) * TICKS_PER_BEAT * 1000) / microsecondsOf(before.bpm));
    return { atMs, tick, ticksPerMs: (TICKS_PER_BEAT * 1000) / microsecondsOf(bpm) };
  });
  return (timeMs) => {
    const { atMs, tick: at, ticksPerMs } = from.findLast((one) => one.atMs <= timeMs) ?? from[0]!;
    return at + (timeMs - atMs) * ticksPerMs;
  };
}

class TrackWriter {
  private readonly events: MidiEvent[] = [];
  private lastTick = 0;

  constructor(private readonly tickOf: (timeMs: number) => number) {}

  put(timeMs: number, event: MidiEvent): void {
    const tick = Math.max(this.lastTick, Math.round(this.tickOf(Math.max(0, timeMs))));
    this.events.push({ ...event, deltaTime: tick - this.lastTick });
    this.lastTick = tick;
  }

  get ended(): MidiEvent[] {
    return [...this.events, { deltaTime: 0, meta: true, type: 'endOfTrack' }];
  }
}

function toEvent(bytes: Uint8Array): MidiEvent | null {
  const message = decode(bytes);
  if (!message) return null;
  const deltaTime = 0;
  switch (message.kind) {
    case 'noteOn':
      return { deltaTime, type: 'noteOn', channel: message.channel - 1, noteNumber: message.note, velocity: message.velocity };
    case 'noteOff':
      return { deltaTime, type: 'noteOff', channel: message.channel - 1, noteNumber: message.note, velocity: message.velocity };
    case 'polyPressure':
      return { deltaTime, type: 'noteAftertouch', channel: message.channel - 1, noteNumber: message.note, amount: message.pressure };
    case 'controlChange':
      return { deltaTime, type: 'controller', channel: message.channel - 1, controllerType: message.controller, value: message.value };
    case 'programChange':
      return { deltaTime, type: 'programChange', channel: message.channel - 1, programNumber: message.program };
    case 'channelPressure':
      return { deltaTime, type: 'channelAftertouch', channel: message.channel - 1, amount: message.pressure };
    case 'pitchBend':
      return { deltaTime, type: 'pitchBend', channel: message.channel - 1, value: message.bend - 8192 };
    case 'sysEx':
      return { deltaTime, type: 'sysEx', data: [...message.data, STATUS.endOfSysEx] as never };
    default:
      return null;
  }
}

export interface ReadMidiFile {
  /** In the order of their times; `track` is its name, or its number from 1 on. */
  messages: TimedMessage[];
  /** The tempo at the beginning. */
  tempoBpm: number;
  marks: Mark[];
  lengthMs: number;
  /** What was not whole or is left out, a sentence each. */
  remarks: string[];
}

/** A file that is no MIDI file at all; the message is a sentence. */
export class NoMidiFile extends Error {}

/**
 * Reads a Standard MIDI File of any format, with running status, tempo map or SMPTE time. A track that is broken is left out and
 * named, and so is what comes after a broken chunk. Chunks of other kinds are passed over (SMF 1.0). Throws `NoMidiFile`.
 */
export function readMidiFile(bytes: Uint8Array): ReadMidiFile {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const name = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 14 || name(0) !== 'MThd' || view.getUint32(4) < 6) throw new NoMidiFile('This is no MIDI file: it does not begin with the head that every Standard MIDI File has.');
  const remarks: string[] = [];
  const division = view.getUint16(12);
  const isByFrames = (division & 0x8000) !== 0;
  if ((isByFrames ? division & 0xff : division) === 0) throw new NoMidiFile(`This MIDI file says that a ${isByFrames ? 'frame' : 'beat'} has no ticks: its times cannot be read.`);
  const head = bytes.subarray(0, 14);
  const tracks: { name: string; events: MidiEvent[] }[] = [];
  let number = 0;
  for (let at = 8 + view.getUint32(4); at < bytes.length; ) {
    if (at + 8 > bytes.length || at + 8 + view.getUint32(at + 4) > bytes.length) {
      remarks.push(`The file is cut short in the chunk at byte ${at}: what is in it is left out.`);
      break;
    }
    const end = at + 8 + view.getUint32(at + 4);
    if (name(at) === 'MTrk') {
      number++;
      const events = trackOf(head, bytes.subarray(at, end));
      if (events) tracks.push({ name: nameOf(events) ?? `Track ${number}`, events });
      else remarks.push(`Track ${number} is broken and was left out.`);
    }
    at = end;
  }
  if (tracks.length === 0) throw new NoMidiFile('This MIDI file has no whole track.');
  const areSongs = view.getUint16(8) === INDEPENDENT && tracks.length > 1;
  const timed = areSongs ? oneAfterAnother(tracks) : tracks.map(({ name: track, events }) => ({ track, events: placedFrom(events, 0) }));
  if (areSongs) remarks.push(`The ${tracks.length} tracks of this file are pieces of their own (format 2): they stand one after another, each from a mark on.`);
  const toMs = timeOf(timed.flatMap(({ events }) => events), division);
  const messages: (TimedMessage & { tick: number })[] = [];
  const marks: Mark[] = [];
  let lastTick = 0;
  let late = 0;
  let unsaid = 0;
  for (const { track, events } of timed) {
    const pieces = new SysExPieces();
    for (const { tick, event } of events) {
      if (toMs(tick) > LIMITS.takeMs) {
        if (event.type !== 'endOfTrack') late++;
        continue;
      }
      lastTick = Math.max(lastTick, tick);
      if (event.type === 'marker' || event.type === 'cuePoint') marks.push({ atMs: toMs(tick), name: textOf(event.text).slice(0, 80) || `Mark ${marks.length + 1}` });
      const message = event.type === 'sysEx' || event.type === 'endSysEx' ? pieces.put(event) : bytesOf(event);
      if (message) messages.push({ tick, timeMs: toMs(tick), track, bytes: message });
    }
    unsaid += pieces.leftOut;
  }
  if (late > 0) remarks.push(`${late} ${late === 1 ? 'event' : 'events'} that would come after ${LIMITS.takeMs / 3_600_000} hours ${late === 1 ? 'was' : 'were'} left out.`);
  if (unsaid > 0) remarks.push(`${unsaid} SysEx ${unsaid === 1 ? 'message that is not whole was' : 'messages that are not whole were'} left out.`);
  // What stands at one tick keeps its order in its track, and tracks theirs.
  messages.sort((a, b) => a.tick - b.tick);
  const tempo = timed.flatMap(({ events }) => events).findLast(({ tick, event }) => tick === 0 && event.type === 'setTempo')?.event;
  return {
    messages: messages.map(({ timeMs, track, bytes: message }) => ({ timeMs, track, bytes: message })),
    tempoBpm: tempo?.type === 'setTempo' && tempo.microsecondsPerBeat > 0 ? Math.round(60_000_000_000 / tempo.microsecondsPerBeat) / 1000 : USUAL_BPM,
    marks: marks.sort((a, b) => a.atMs - b.atMs),
    lengthMs: toMs(lastTick),
    remarks,
  };
}

/** The format of files whose tracks are pieces of their own (SMF 1.0, header chunks). */
const INDEPENDENT = 2;

const placedFrom = (events: readonly MidiEvent[], fromTick: number): { tick: number; event: MidiEvent }[] => {
  let tick = fromTick;
  return events.map((event) => ({ tick: (tick += event.deltaTime), event }));
};

/** Pieces in their order: each begins where the one before ends, at a mark and at the tempo of a piece that says none. */
function oneAfterAnother(tracks: readonly { name: string; events: readonly MidiEvent[] }[]): { track: string; events: { tick: number; event: MidiEvent }[] }[] {
  let endTick = 0;
  return tracks.map(({ name, events }) => {
    const begins: MidiEvent[] = [
      { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: microsecondsOf(USUAL_BPM) },
      { deltaTime: 0, meta: true, type: 'marker', text: octetsOf(name) },
    ];
    const placed = placedFrom([...begins, ...events], endTick);
    endTick = placed.at(-1)!.tick;
    return { track: name, events: placed };
  });
}

/** To the package a text is octets, a letter each. SMF 1.0 knows ASCII alone; programs write UTF-8 by now (common practice). */
const octetsOf = (text: string): string => String.fromCharCode(...new TextEncoder().encode(text));

/** What is no UTF-8 is of an older program: Latin-1. */
function textOf(octets: string): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Uint8Array.from(octets, (octet) => octet.charCodeAt(0))).trim();
  } catch {
    return octets.trim();
  }
}

/** The package throws texts, and reads past the end of what is cut short without a word. */
function trackOf(head: Uint8Array, chunk: Uint8Array): MidiEvent[] | null {
  const file = new Uint8Array(head.length + chunk.length);
  file.set(head);
  new DataView(file.buffer).setUint32(4, 6);
  new DataView(file.buffer).setUint16(10, 1);
  file.set(chunk, head.length);
  try {
    const events = parseMidi(file).tracks[0]!;
    return events.every((event) => Number.isFinite(event.deltaTime) && Object.values(event).every((value) => value !== undefined && !Number.isNaN(value))) ? events : null;
  } catch {
    return null;
  }
}

const nameOf = (events: readonly MidiEvent[]): string | null => {
  for (const event of events) if (event.type === 'trackName' && textOf(event.text) !== '') return textOf(event.text).slice(0, 80);
  return null;
};

/** From ticks to ms: by the tempo map, which counts for all tracks, or by frames a second. */
function timeOf(events: readonly { tick: number; event: MidiEvent }[], division: number): (tick: number) => number {
  if (division & 0x8000) {
    const frames = 256 - (division >> 8);
    // 29 stands for 30 frames drop-frame, which go by at 30000/1001 a second (SMF 1.0, division).
    const ticksPerS = (frames === 29 ? 30_000 / 1001 : frames) * (division & 0xff);
    return (tick) => (tick / ticksPerS) * 1000;
  }
  const tempi = events.flatMap(({ tick, event }) => (event.type === 'setTempo' && event.microsecondsPerBeat > 0 ? [{ tick, msPerTick: event.microsecondsPerBeat / 1000 / division, atMs: 0 }] : []));
  tempi.sort((a, b) => a.tick - b.tick);
  tempi.unshift({ tick: 0, msPerTick: 60_000 / USUAL_BPM / division, atMs: 0 });
  for (let i = 1; i < tempi.length; i++) tempi[i]!.atMs = tempi[i - 1]!.atMs + (tempi[i]!.tick - tempi[i - 1]!.tick) * tempi[i - 1]!.msPerTick;
  return (tick) => {
    let [lo, hi] = [0, tempi.length];
    while (hi - lo > 1) {
      const middle = (lo + hi) >> 1;
      if (tempi[middle]!.tick <= tick) lo = middle;
      else hi = middle;
    }
    const { tick: from, msPerTick, atMs } = tempi[lo]!;
    return atMs + (tick - from) * msPerTick;
  };
}

function bytesOf(event: MidiEvent): Uint8Array | null {
  switch (event.type) {
    case 'noteOn':
      return encode({ kind: 'noteOn', channel: event.channel + 1, note: event.noteNumber, velocity: event.velocity });
    case 'noteOff':
      return encode({ kind: 'noteOff', channel: event.channel + 1, note: event.noteNumber, velocity: event.velocity });
    case 'noteAftertouch':
      return encode({ kind: 'polyPressure', channel: event.channel + 1, note: event.noteNumber, pressure: event.amount });
    case 'controller':
      return encode({ kind: 'controlChange', channel: event.channel + 1, controller: event.controllerType, value: event.value });
    case 'programChange':
      return encode({ kind: 'programChange', channel: event.channel + 1, program: event.programNumber });
    case 'channelAftertouch':
      return encode({ kind: 'channelPressure', channel: event.channel + 1, pressure: event.amount });
    case 'pitchBend':
      return encode({ kind: 'pitchBend', channel: event.channel + 1, bend: event.value + 8192 });
    default:
      return null;
  }
}

/** SysEx of a track, whole or a piece at a time (SMF 1.0, sysex events): it is there with its last piece. What escapes as any bytes is none. */
class SysExPieces {
  private pieces: Uint8Array[] = [];
  private broken = 0;

  /** The message that ends with this piece. */
  put({ type, data }: { type: 'sysEx' | 'endSysEx'; data: unknown }): Uint8Array | null {
    const piece = Uint8Array.from(data as Iterable<number>);
    if (type === 'sysEx') {
      if (this.pieces.length > 0) this.broken++;
      this.pieces = [Uint8Array.of(STATUS.sysEx)];
    } else if (this.pieces.length === 0) {
      this.broken++;
      return null;
    }
    this.pieces.push(piece);
    if (piece.at(-1) !== STATUS.endOfSysEx) return null;
    const whole = joined(this.pieces);
    this.pieces = [];
    if (decode(whole)) return whole;
    this.broken++;
    return null;
  }

  /** How many were not whole, an unfinished one with them. */
  get leftOut(): number {
    return this.broken + (this.pieces.length > 0 ? 1 : 0);
  }
}
