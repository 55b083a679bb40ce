import { noteName } from '../midi/describe';
import { STATUS } from '../midi/message';
import type { MessageSource } from './score';
import type { ScoreColumns } from './scoreTable';

/** A growing column of numbers. */
class Column {
  private numbers = new Float64Array(256);
  length = 0;

  push(value: number): void {
    if (this.length === this.numbers.length) {
      const larger = new Float64Array(2 * this.length);
      larger.set(this.numbers);
      this.numbers = larger;
    }
    this.numbers[this.length++] = value;
  }

  set(at: number, value: number): void {
    this.numbers[at] = value;
  }

  take(): Float64Array<ArrayBuffer> {
    return this.numbers.slice(0, this.length);
  }
}

/** The notes of one line of music. Times in ms from the beginning of the take. */
export interface NoteLane {
  kind: 'notes';
  source: MessageSource;
  fromMs: Float64Array<ArrayBuffer>;
  toMs: Float64Array<ArrayBuffer>;
  key: Float64Array<ArrayBuffer>;
  strike: Float64Array<ArrayBuffer>;
  channel: Float64Array<ArrayBuffer>;
  /** Where the moves of each note begin among all, and where those of the last end. */
  moves: Float64Array<ArrayBuffer>;
  /** Each move: when, and the pitch that sounds from then on, bends in it, in semitones. */
  moveMs: Float64Array<ArrayBuffer>;
  movePitch: Float64Array<ArrayBuffer>;
  /** The channel pressure then, 0 to 127. */
  movePressure: Float64Array<ArrayBuffer>;
}

/** The values of one address. */
export interface CurveLane {
  kind: 'curve';
  source: MessageSource;
  status: number;
  /** 1 to 16. */
  channel: number;
  /** Of the controller, or the key of a pressure; -1 for none. */
  number: number;
  most: number;
  atMs: Float64Array<ArrayBuffer>;
  value: Float64Array<ArrayBuffer>;
}

export type ScoreLane = NoteLane | CurveLane;

interface Growing {
  source: MessageSource;
  columns: Record<'fromMs' | 'toMs' | 'key' | 'strike' | 'channel' | 'moves' | 'moveMs' | 'movePitch' | 'movePressure', Column>;
  /** Moves of a note that still sounds while others began stand apart until it ends. */
  sounding: Map<number, { note: number; moves: [number, number, number][] }>;
  done: [number, number, number][][];
}

/**
 * What a score looks like: for each line of music its notes, drawn as they sound, and for each address its curve.
 * @param bendRangeOf the semitones of a full bend at an output
 * @param endMs how long the take is: what nothing ends sounds until then
 */
export function lanesOf({ sources, atMs, source: whose, begins, bytes }: ScoreColumns, bendRangeOf: (output: string) => number, endMs: number): ScoreLane[] {
  const notes = new Map<string, Growing>();
  const curves = new Map<string, Omit<CurveLane, 'atMs' | 'value'> & { at: Column; values: Column }>();
  const channels = new Map<string, { bend: number; pressure: number }>();
  const upper = new Map<string, number>();
  const fine = finePairs({ sources, atMs, source: whose, begins, bytes });

  const growing = (source: MessageSource): Growing => {
    const key = `${source.output} ${source.who} ${source.mapping}`;
    const known = notes.get(key);
    if (known) return known;
    const column = () => new Column();
    const made: Growing = { source, columns: { fromMs: column(), toMs: column(), key: column(), strike: column(), channel: column(), moves: column(), moveMs: column(), movePitch: column(), movePressure: column() }, sounding: new Map(), done: [] };
    notes.set(key, made);
    return made;
  };
  const point = (source: MessageSource, status: number, channel: number, number: number, most: number, time: number, value: number) => {
    const key = `${source.output} ${status} ${channel} ${number}`;
    let curve = curves.get(key);
    if (!curve) curves.set(key, (curve = { kind: 'curve', source, status, channel, number, most, at: new Column(), values: new Column() }));
    if (curve.at.length > 0 && most > 127 && status === STATUS.controlChange && upperAt.get(key) === time) return curve.values.set(curve.values.length - 1, value);
    curve.at.push(time);
    curve.values.push(value);
  };
  const upperAt = new Map<string, number>();

  for (let i = 0; i < atMs.length; i++) {
    const at = begins[i]!;
    const first = bytes[at]!;
    if (first < STATUS.noteOff || first >= STATUS.sysEx) continue;
    const [time, source, status, channel] = [atMs[i]!, sources[whose[i]!]!, first & 0xf0, (first & 0x0f) + 1];
    const [data1, data2] = [bytes[at + 1]!, bytes[at + 2] ?? 0];
    const place = `${source.output} ${channel}`;
    let held = channels.get(place);
    if (!held) channels.set(place, (held = { bend: 0, pressure: 0 }));
    const key = channel * 128 + data1;
    switch (status) {
      case STATUS.noteOn:
      case STATUS.noteOff: {
        const lane = growing(source);
        endNote(lane, key, time);
        if (status === STATUS.noteOff || data2 === 0) break;
        const { columns } = lane;
        lane.sounding.set(key, { note: columns.fromMs.length, moves: [[time, data1 + held.bend, held.pressure]] });
        columns.fromMs.push(time);
        columns.toMs.push(endMs);
        columns.key.push(data1);
        columns.strike.push(data2);
        columns.channel.push(channel);
        break;
      }
      case STATUS.pitchBend:
      case STATUS.channelPressure: {
        if (status === STATUS.pitchBend) held.bend = ((data1 + data2 * 128 - 8192) / 8192) * bendRangeOf(source.output);
        else held.pressure = data1;
        for (const lane of notes.values()) {
          if (lane.source.output !== source.output) continue;
          for (const [sounding, { moves }] of lane.sounding) if (sounding >> 7 === channel) moves.push([time, (sounding & 127) + held.bend, held.pressure]);
        }
        if (status === STATUS.pitchBend) point(source, status, channel, -1, 16383, time, data1 + data2 * 128);
        else point(source, status, channel, -1, 127, time, data1);
        break;
      }
      case STATUS.polyPressure:
        point(source, status, channel, data1, 127, time, data2);
        break;
      case STATUS.controlChange: {
        const coarse = data1 >= 32 && data1 < 64 ? data1 - 32 : data1;
        if (!fine.has(`${place} ${coarse}`)) {
          point(source, status, channel, data1, 127, time, data2);
          break;
        }
        const address = `${source.output} ${status} ${channel} ${coarse}`;
        if (data1 === coarse) upper.set(address, data2);
        point(source, status, channel, coarse, 16383, time, (upper.get(address) ?? 0) * 128 + (data1 === coarse ? 0 : data2));
        upperAt.set(address, data1 === coarse ? time : NaN);
        break;
      }
      default:
    }
  }
  for (const lane of notes.values()) for (const key of [...lane.sounding.keys()]) endNote(lane, key, endMs);
  return [...[...notes.values()].map(noteLane), ...[...curves.values()].map(({ at, values, ...curve }): CurveLane => ({ ...curve, atMs: at.take(), value: values.take() }))];
}

function endNote(lane: Growing, key: number, atMs: number): void {
  const ended = lane.sounding.get(key);
  if (!ended) return;
  lane.sounding.delete(key);
  lane.columns.toMs.set(ended.note, atMs);
  lane.done[ended.note] = ended.moves;
}

function noteLane({ source, columns, done }: Growing): NoteLane {
  for (const moves of done) {
    columns.moves.push(columns.moveMs.length);
    for (const [at, pitch, pressure] of moves) {
      columns.moveMs.push(at);
      columns.movePitch.push(pitch);
      columns.movePressure.push(pressure);
    }
  }
  columns.moves.push(columns.moveMs.length);
  const taken = Object.fromEntries(Object.entries(columns).map(([name, column]) => [name, column.take()])) as Record<keyof typeof columns, Float64Array<ArrayBuffer>>;
  return { kind: 'notes', source, ...taken };
}

/** The controllers whose lower half is sent too, by output, channel and number. */
function finePairs({ sources, source, begins, bytes, atMs }: ScoreColumns): Set<string> {
  const seen = new Set<number>();
  const fine = new Set<string>();
  for (let i = 0; i < atMs.length; i++) {
    const at = begins[i]!;
    const [first, controller] = [bytes[at]!, bytes[at + 1]!];
    if ((first & 0xf0) !== STATUS.controlChange || controller < 32 || controller >= 64) continue;
    const key = source[i]! * 4096 + (first & 0x0f) * 128 + controller;
    if (seen.has(key)) continue;
    seen.add(key);
    fine.add(`${sources[source[i]!]!.output} ${(first & 0x0f) + 1} ${controller - 32}`);
  }
  return fine;
}

/** The first place in rising times that is at or after a time. */
export function placeOf(timesMs: Float64Array, atMs: number): number {
  let lo = 0;
  let hi = timesMs.length;
  while (lo < hi) {
    const middle = (lo + hi) >> 1;
    if (timesMs[middle]! < atMs) lo = middle + 1;
    else hi = middle;
  }
  return lo;
}

/** The address of a curve in words, as lists name it. */
export function addressOf({ status, channel, number, most }: CurveLane): string {
  const where = `channel ${channel}`;
  if (status === STATUS.pitchBend) return `${where} bend`;
  if (status === STATUS.channelPressure) return `${where} pressure`;
  if (status === STATUS.polyPressure) return `${where} pressure of ${noteName(number)}`;
  return `${where} CC ${number}${most > 127 ? ', 14 bits' : ''}`;
}
