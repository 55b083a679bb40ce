import { noteName } from '../midi/describe';
import { LowerHalves, LSB } from '../midi/halves';
import { STATUS } from '../midi/message';
import type { MessageSource } from './score';
import type { ScoreColumns } from './scoreTable';

/** In place of a controller or key. */
const NO_NUMBER = -1;

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

type Move = [atMs: number, pitch: number, pressure: number];

interface Growing {
  source: MessageSource;
  columns: Record<'fromMs' | 'toMs' | 'key' | 'strike' | 'channel' | 'moves' | 'moveMs' | 'movePitch' | 'movePressure', Column>;
  /** By channel and key. Moves of a note that still sounds while others began stand apart until it ends. */
  sounding: Map<number, { note: number; moves: Move[] }>;
  done: Move[][];
}

interface GrowingCurve extends Omit<CurveLane, 'atMs' | 'value'> {
  at: Column;
  values: Column;
  /** The upper half of a controller of 14 bits, and when it was said last. */
  upper: number;
  upperMs: number;
}

const freshLane = (source: MessageSource): Growing => {
  const column = () => new Column();
  return { source, columns: { fromMs: column(), toMs: column(), key: column(), strike: column(), channel: column(), moves: column(), moveMs: column(), movePitch: column(), movePressure: column() }, sounding: new Map(), done: [] };
};

/** An address as one number: its place (output and channel), its status and its controller or key. */
const addressKey = (place: number, status: number, number: number) => (place * 8 + ((status >> 4) & 7)) * 128 + number;

/**
 * What a score looks like: for each line of music its notes, drawn as they sound, and for each address its curve.
 * @param bendRangeOf the semitones of a full bend at an output
 * @param endMs how long the take is: what nothing ends sounds until then
 */
export function lanesOf(score: ScoreColumns, bendRangeOf: (output: string) => number, endMs: number): ScoreLane[] {
  const { sources, atMs, source: whose, begins, bytes } = score;
  const outputs = [...new Set(sources.map(({ output }) => output))];
  const outputOf = sources.map(({ output }) => outputs.indexOf(output));
  const ranges = outputs.map(bendRangeOf);
  const bends = new Float64Array(outputs.length * 16);
  const pressures = new Float64Array(outputs.length * 16);
  const lines: (Growing | undefined)[] = [];
  const linesOf: Growing[][] = outputs.map(() => []);
  const curves = new Map<number, GrowingCurve>();
  const fine = finePairs(score, outputOf);

  const curveAt = (place: number, source: MessageSource, status: number, number: number, most: number): GrowingCurve => {
    const key = addressKey(place, status, Math.max(0, number));
    let curve = curves.get(key);
    if (!curve) curves.set(key, (curve = { kind: 'curve', source, status, channel: (place & 15) + 1, number, most, at: new Column(), values: new Column(), upper: 0, upperMs: NaN }));
    return curve;
  };
  const point = (curve: GrowingCurve, time: number, value: number) => {
    curve.at.push(time);
    curve.values.push(value);
  };

  for (let i = 0; i < atMs.length; i++) {
    const at = begins[i]!;
    const first = bytes[at]!;
    if (first < STATUS.noteOff || first >= STATUS.sysEx) continue;
    const s = whose[i]!;
    const [time, source, output, status] = [atMs[i]!, sources[s]!, outputOf[s]!, first & 0xf0];
    const place = output * 16 + (first & 0x0f);
    const [data1, data2] = [bytes[at + 1]!, bytes[at + 2] ?? 0];
    switch (status) {
      case STATUS.noteOn:
      case STATUS.noteOff: {
        let line = lines[s];
        if (!line) linesOf[output]!.push((line = lines[s] = freshLane(source)));
        const key = (first & 0x0f) * 128 + data1;
        endNote(line, key, time);
        if (status === STATUS.noteOff || data2 === 0) break;
        const { columns } = line;
        line.sounding.set(key, { note: columns.fromMs.length, moves: [[time, data1 + bends[place]!, pressures[place]!]] });
        columns.fromMs.push(time);
        columns.toMs.push(endMs);
        columns.key.push(data1);
        columns.strike.push(data2);
        columns.channel.push((first & 0x0f) + 1);
        break;
      }
      case STATUS.pitchBend:
      case STATUS.channelPressure: {
        const isBend = status === STATUS.pitchBend;
        if (isBend) bends[place] = ((data1 + data2 * 128 - 8192) / 8192) * ranges[output]!;
        else pressures[place] = data1;
        for (const { sounding } of linesOf[output]!) for (const [key, { moves }] of sounding) if (key >> 7 === (first & 0x0f)) moves.push([time, (key & 127) + bends[place]!, pressures[place]!]);
        point(curveAt(place, source, status, NO_NUMBER, isBend ? 16383 : 127), time, isBend ? data1 + data2 * 128 : data1);
        break;
      }
      case STATUS.polyPressure:
        point(curveAt(place, source, status, data1, 127), time, data2);
        break;
      case STATUS.controlChange: {
        const coarse = data1 >= LSB && data1 < 2 * LSB ? data1 - LSB : data1;
        if (fine.size === 0 || !fine.has(addressKey(place, status, coarse))) {
          point(curveAt(place, source, status, data1, 127), time, data2);
          break;
        }
        const curve = curveAt(place, source, status, coarse, 16383);
        if (data1 === coarse) {
          curve.upper = data2;
          curve.upperMs = time;
          point(curve, time, data2 * 128);
          break;
        }
        // The lower half of the value just before belongs to it.
        if (curve.upperMs === time) curve.values.set(curve.values.length - 1, curve.upper * 128 + data2);
        else point(curve, time, curve.upper * 128 + data2);
        curve.upperMs = NaN;
        break;
      }
      default:
    }
  }
  const grown = lines.filter((line) => line !== undefined);
  for (const line of grown) for (const key of [...line.sounding.keys()]) endNote(line, key, endMs);
  return [...grown.map(noteLane), ...[...curves.values()].map(({ kind, source, status, channel, number, most, at, values }): CurveLane => ({ kind, source, status, channel, number, most, atMs: at.take(), value: values.take() }))];
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

/** The addresses of controllers whose lower half is sent too. */
function finePairs({ source, begins, bytes, atMs }: ScoreColumns, outputOf: readonly number[]): Set<number> {
  const fine = new Set<number>();
  const lower = new LowerHalves();
  for (let i = 0; i < atMs.length; i++) {
    const at = begins[i]!;
    const [first, controller] = [bytes[at]!, bytes[at + 1]!];
    if ((first & 0xf0) !== STATUS.controlChange || !lower.isOne(source[i]!, first & 0x0f, controller, atMs[i]!)) continue;
    fine.add(addressKey(outputOf[source[i]!]! * 16 + (first & 0x0f), STATUS.controlChange, controller - LSB));
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
