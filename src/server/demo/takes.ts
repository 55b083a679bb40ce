import { compile, type Plan } from '../../core/engine/plan';
import type { EngineEvent } from '../../core/engine/event';
import type { RigDocument } from '../../core/rig/document';
import { LogWriter } from '../../core/takes/log';
import type { Mark } from '../../core/takes/take';
import { voiceEvent, type VoiceField } from '../../core/voices/event';
import { startOf, type TakenFile } from '../takes/takeFiles';
import { NIGHT_FERRY_ID } from './nightFerry';

const TICK_MS = 4;
const FRAME_MS = 1000 / 60;
const BEAT_MS = 60_000 / 84;

type Said = Partial<Record<VoiceField, number>>;

/** Writes a performance down: what happens in it in any order, and the ticks between. */
class Performance {
  private readonly events: EngineEvent[] = [];

  constructor(private readonly plan: Plan) {}

  move(signal: string, atMs: number, value: number): void {
    this.events.push({ kind: 'sample', signal: this.plan.signalIndex.get(signal)!, timeMs: atMs, value });
  }

  /** A signal that follows a function of the time from 0 on, sixty times a second. */
  follow(signal: string, fromMs: number, toMs: number, value: (ms: number) => number): void {
    for (let ms = 0; ms <= toMs - fromMs; ms += FRAME_MS) this.move(signal, fromMs + ms, Math.fround(Math.min(1, Math.max(0, value(ms)))));
  }

  press(gate: string, atMs: number, forMs: number): void {
    this.move(gate, atMs, 1);
    this.move(gate, atMs + forMs, 0);
  }

  recall(scene: string, atMs: number): void {
    this.events.push({ kind: 'recall', scene, timeMs: atMs });
  }

  /** A voice from its beginning to its end; `said` gives what moves in it, the pitch without its bends being `pitch`. */
  sing(stream: string, voice: number, atMs: number, forMs: number, first: Said, said: (ms: number) => Said): void {
    const of = (kind: 'on' | 'move' | 'off', timeMs: number, more: Said) => this.events.push({ ...voiceEvent(kind), stream: this.plan.streamIndex.get(stream)!, voice, timeMs, ...more });
    of('on', atMs, first);
    for (let ms = FRAME_MS; ms < forMs - FRAME_MS; ms += FRAME_MS) of('move', atMs + ms, said(ms));
    of('off', atMs + forMs, { release: 0.5 });
  }

  /** The log in one piece, and how long it is. */
  written(): { pieces: Uint8Array[]; events: number; lengthMs: number } {
    const writer = new LogWriter();
    this.events.sort((a, b) => a.timeMs - b.timeMs);
    const lengthMs = this.events.at(-1)!.timeMs + 1500;
    writer.write({ kind: 'start', timeMs: 0 }, this.plan);
    let tickMs = TICK_MS;
    for (const event of this.events) {
      for (; tickMs <= event.timeMs; tickMs += TICK_MS) writer.write({ kind: 'tick', timeMs: tickMs }, this.plan);
      writer.write(event, this.plan);
    }
    for (; tickMs <= lengthMs; tickMs += TICK_MS) writer.write({ kind: 'tick', timeMs: tickMs }, this.plan);
    const { bytes, events } = writer.take()!;
    return { pieces: [bytes], events, lengthMs };
  }
}

/** The crossing: fog comes up, the wind draws, bell and horn answer, and the hull sings under it. */
function crossing(performance: Performance): Mark[] {
  const wave = (ms: number, everyMs: number) => Math.sin((2 * Math.PI * ms) / everyMs);
  performance.follow('wheelhouse.fog', 500, 21_000, (ms) => 0.12 + 0.7 * (ms / 20_500) ** 1.6 + 0.04 * wave(ms, 5300));
  performance.follow('wheelhouse.swell', 1800, 23_500, (ms) => 0.5 + 0.28 * wave(ms, 4 * BEAT_MS) * Math.min(1, ms / 5000) + 0.05 * wave(ms, 930));
  performance.follow('wheelhouse.wind.x', 6000, 18_000, (ms) => 0.5 + 0.4 * wave(ms, 6100));
  performance.follow('wheelhouse.wind.y', 6000, 18_000, (ms) => 0.45 + 0.35 * wave(ms, 3900));
  for (const beat of [4, 8, 12, 20, 24]) performance.press('wheelhouse.bell', beat * BEAT_MS + 23, 240);
  for (const beat of [16, 30]) performance.press('wheelhouse.horn', beat * BEAT_MS - 31, 1150);
  performance.recall('fog-bank', 18.04 * BEAT_MS);
  const line: [beat: number, beats: number, pitch: number][] = [
    [6, 3.7, 50], [10, 1.9, 53], [12, 3.6, 57], [16, 2, 55], [18, 1.8, 53], [20, 3.8, 52], [24, 5.5, 50],
  ];
  line.forEach(([beat, beats, pitch], i) => {
    const press = (ms: number) => Math.min(0.9, 0.25 + ms / 2600);
    performance.sing('hull.ribs', 2 * i + 1, beat * BEAT_MS + 17 * wave(i * 900, 2600), beats * BEAT_MS, { pitch: pitch + 0.12, strike: 0.6, pressure: 0.2, slide: 0.4 }, (ms) => ({ pitch: pitch + 0.12 + (ms > 900 ? 0.22 * wave(ms, 190) : 0) + (i === 4 ? ms / 2400 : 0), pressure: press(ms), slide: 0.4 + 0.25 * wave(ms, 2100) }));
    if (i % 2 === 0) performance.sing('hull.ribs', 2 * i + 2, (beat + 0.5) * BEAT_MS, (beats - 0.7) * BEAT_MS, { pitch: pitch + 7, strike: 0.45, pressure: 0.15, slide: 0.6 }, (ms) => ({ pitch: pitch + 7 - 0.4 * Math.max(0, 1 - ms / 350), pressure: 0.7 * press(ms) }));
  });
  return [
    { atMs: 6 * BEAT_MS, name: 'The hull sings' },
    { atMs: 18.04 * BEAT_MS, name: 'Into the fog' },
  ];
}

/** A sung line with all that makes singers tidy: late notes, scoops, a wobble that became a note of its own, uneven strikes. */
function foghorn(performance: Performance): Mark[] {
  const vibrato = (ms: number, cents: number) => (ms > 350 ? (cents / 100) * Math.sin((2 * Math.PI * ms) / 182) : 0);
  const line: [beat: number, lateMs: number, beats: number, pitch: number, loud: number][] = [
    [1, 40, 1.8, 50, 0.55], [3, -25, 0.9, 53, 0.7], [4, 62, 0.85, 55, 0.5], [5, 18, 1.6, 57, 0.85], [6.65, 0, 0.09, 58, 0.3], [6.75, 0, 0.9, 57, 0.6],
    [8, 70, 0.9, 55, 0.45], [9, -30, 0.95, 53, 0.75], [10, 45, 0.08, 60, 0.2], [10.2, 0, 1.6, 52, 0.6], [12, 55, 3.4, 50, 0.8],
  ];
  line.forEach(([beat, lateMs, beats, pitch, loud], i) => {
    const scoop = (ms: number) => -0.45 * Math.max(0, 1 - ms / 130);
    performance.sing('foghorn.sung', i + 1, beat * BEAT_MS + lateMs, beats * BEAT_MS, { pitch: pitch - 0.2, strike: loud, pressure: loud * 0.6, slide: 0.5 }, (ms) => ({ pitch: pitch + scoop(ms) + vibrato(ms, 32) + 0.05 * Math.sin(ms / 700), pressure: Math.min(1, loud * (0.6 + Math.min(0.4, ms / 900))) }));
  });
  return [];
}

/** Two short takes to begin with. */
export function demoTakes(document: RigDocument, nowMs: number): TakenFile[] {
  const plan = compile(document);
  return ([['Foghorn', foghorn], ['Crossing', crossing]] as const).map(([name, play]) => {
    const performance = new Performance(plan);
    const marks = play(performance);
    return { start: startOf({ id: NIGHT_FERRY_ID, document }, nowMs), name, marks, versions: [], remarks: [], ...performance.written() };
  });
}
