import type { WebSocket } from 'ws';
import { FRAME, encodeCaptured, encodeFacts, encodeHeard, encodeValues, type Captured, type Fact, type Heard } from '../protocol/frames';
import { encodeShownVoices, type ShownVoice } from '../protocol/voiceFrames';
import { LIMITS } from '../protocol/limits';
import { hubTimeMs } from './time';

const FRAME_MS = 1000 / 60;
/** So many may come early: a stream of 50 a second with some jitter is then never made to wait. */
const EARLY_FRAMES = 2;
/** To say what is shown takes about so long: nothing is begun that would still go on when something has to leave. */
const PICTURE_COSTS_MS = 1;
const PUT_OFF_MS = 2;
/** What is due that close for longer makes nobody wait for ever. */
const MOST_PUT_OFF = 4;

/** Where a watcher reads what it shows, by number. */
export interface LiveState {
  /** When the next message has to leave by itself, in hub time; Infinity for none. */
  readonly dueMs: number;
  signalValue(number: number): number;
  mappingLevel(number: number): number;
  /** What sounds of a voice mapping. */
  soundingVoices(number: number): ShownVoice[];
}

/**
 * Sends one page what it wants to see, thinned: a change is sent at once where the last frame is long enough ago, else
 * with everything else that changed when its turn comes. A socket that does not drain is given fewer frames, and in
 * the end none; it never makes anybody else wait.
 */
export class Watcher {
  private readonly signals = new Dirty();
  private readonly mappings = new Dirty();
  private readonly voices = new Dirty();
  private outputs = new Set<number>();
  /** Per output the addresses that changed. */
  private readonly heard = new Map<number, Map<string, Heard>>();
  private facts: Fact[] = [];
  private dropped = 0;
  private wanted: ReadonlySet<number> = new Set();
  private captured: Captured[] = [];
  private lostNumbers = 0;
  private lastFrameMs = 0;
  /** When the next picture may be made. */
  private nextFrameMs = 0;
  private putOff = 0;
  private timer: NodeJS.Timeout | NodeJS.Immediate | null = null;
  /** So far the page was heard, see `NumberedValues`: what it is told says so, for it may have sent more meanwhile. */
  heardUpTo = 0;
  monitor = false;
  activity = false;
  inputs = false;
  outputStates = false;
  mappingStates = false;
  ensemble = false;

  constructor(
    private readonly socket: WebSocket,
    private readonly state: LiveState,
    private readonly maxFacts: number,
    /** Pictures are made at most this often on average. */
    private readonly frameMs = FRAME_MS,
  ) {}

  /**
   * Watches exactly these from now on, and shows the present values of those that are new; of one that has none yet NaN, so that the
   * page knows that there is nothing to wait for, and that the next is the first. So it is for mappings.
   */
  watchSignals(numbers: Iterable<number> | 'all'): void {
    this.signals.watch(numbers);
    this.schedule();
  }

  watchMappings(numbers: Iterable<number>): void {
    this.mappings.watch(numbers);
    this.schedule();
  }

  watchVoices(numbers: Iterable<number>): void {
    this.voices.watch(numbers);
    this.schedule();
  }

  watchOutputs(numbers: Iterable<number>): void {
    this.outputs = new Set(numbers);
  }

  isWatchingOutput(number: number): boolean {
    return this.outputs.has(number);
  }

  signalChanged(number: number): void {
    if (this.signals.mark(number)) this.schedule();
  }

  mappingChanged(number: number): void {
    if (this.mappings.mark(number)) this.schedule();
  }

  voicesChanged(number: number): void {
    if (this.voices.mark(number)) this.schedule();
  }

  /** What was heard is noted: the object may be used again. */
  receiverHeard(output: number, heard: Readonly<Heard>): void {
    if (this.outputs.size === 0 || !this.outputs.has(output)) return;
    const addresses = this.heard.get(output) ?? new Map<string, Heard>();
    addresses.set(`${heard.kind} ${heard.channel} ${heard.number}`, { ...heard });
    this.heard.set(output, addresses);
    this.schedule();
  }

  /** Captures every raw number of exactly these signals from now on. */
  capture(numbers: Iterable<number>): void {
    this.wanted = new Set(numbers);
  }

  get captures(): boolean {
    return this.wanted.size > 0;
  }

  rawNumber(signal: number, timeMs: number, value: number): void {
    if (!this.wanted.has(signal)) return;
    if (this.captured.length >= LIMITS.captureBacklog) {
      this.captured.shift();
      this.lostNumbers++;
    }
    this.captured.push({ signal, timeMs, value });
    this.schedule();
  }

  fact(fact: Fact): void {
    if (!this.monitor) return;
    if (this.facts.length >= this.maxFacts) {
      this.facts.shift();
      this.dropped++;
    }
    this.facts.push(fact);
    this.schedule();
  }

  close(): void {
    if (this.timer) {
      clearTimeout(this.timer as NodeJS.Timeout);
      clearImmediate(this.timer as NodeJS.Immediate);
    }
    this.timer = null;
  }

  private schedule(): void {
    if (this.timer) return;
    const waitMs = this.nextFrameMs - hubTimeMs();
    this.timer = waitMs > 0 ? setTimeout(this.flush, Math.ceil(waitMs)) : setImmediate(this.flush);
  }

  private readonly flush = (): void => {
    this.timer = null;
    const nowMs = hubTimeMs();
    if (this.state.dueMs - nowMs < PICTURE_COSTS_MS && this.putOff < MOST_PUT_OFF) {
      this.putOff++;
      this.timer = setTimeout(this.flush, PUT_OFF_MS);
      return;
    }
    this.putOff = 0;
    this.lastFrameMs = nowMs;
    this.nextFrameMs = Math.max(this.nextFrameMs, this.lastFrameMs - EARLY_FRAMES * this.frameMs) + this.frameMs;
    if (this.socket.bufferedAmount > LIMITS.watcherBacklogBytes) return this.schedule();
    this.sendValues(FRAME.values, this.signals.takeWith((number) => this.state.signalValue(number)));
    this.sendValues(FRAME.levels, this.mappings.takeWith((number) => this.state.mappingLevel(number)));
    for (const number of this.voices.take()) this.socket.send(encodeShownVoices(number, this.state.soundingVoices(number)));
    for (const [output, addresses] of this.heard) this.socket.send(encodeHeard(output, [...addresses.values()]));
    this.heard.clear();
    if (this.captured.length > 0) {
      this.socket.send(encodeCaptured(this.captured, this.lostNumbers));
      this.captured = [];
      this.lostNumbers = 0;
    }
    if (this.facts.length > 0) {
      this.socket.send(encodeFacts(this.facts, this.dropped));
      this.facts = [];
      this.dropped = 0;
    }
  };

  private sendValues(kind: typeof FRAME.values | typeof FRAME.levels, { numbers, values }: { numbers: number[]; values: number[] }): void {
    if (numbers.length > 0) this.socket.send(encodeValues(kind, { hubTimeMs: this.lastFrameMs, heardUpTo: this.heardUpTo, numbers, values }));
  }
}

/** Which numbers are watched, and which of them changed since they were last taken. */
class Dirty {
  private watched: ReadonlySet<number> | 'all' = new Set();
  private changed: number[] = [];
  /** Watched anew since the last were taken. */
  private readonly anew = new Set<number>();
  /** By number, as sets would be asked for every sample of every signal: whether it is watched, and whether it is among those that changed. */
  private isWatched: boolean[] = [];
  private readonly isChanged: boolean[] = [];

  watch(numbers: Iterable<number> | 'all'): void {
    const before = this.watched;
    this.watched = numbers === 'all' ? 'all' : new Set(numbers);
    this.isWatched = [];
    if (this.watched === 'all') return;
    for (const number of this.watched) this.isWatched[number] = true;
    for (const number of this.watched) {
      if (before !== 'all' && before.has(number)) continue;
      this.add(number);
      this.anew.add(number);
    }
  }

  /** True where it is watched; it may be marked already. */
  mark(number: number): boolean {
    if (this.isChanged[number] === true) return true;
    if (this.watched !== 'all' && this.isWatched[number] !== true) return false;
    this.add(number);
    return true;
  }

  take(): number[] {
    return this.takeIf(() => true);
  }

  /** With their values; that there is none is said of those alone that are watched anew. */
  takeWith(read: (number: number) => number): { numbers: number[]; values: number[] } {
    const numbers = this.takeIf((number) => !Number.isNaN(read(number)) || this.anew.has(number));
    return { numbers, values: numbers.map(read) };
  }

  /** Takes all, and gives those of which something is to be said. */
  private takeIf(isToBeSaid: (number: number) => boolean): number[] {
    const taken = this.changed.filter(isToBeSaid);
    for (const number of this.changed) this.isChanged[number] = false;
    this.changed = [];
    this.anew.clear();
    return taken;
  }

  private add(number: number): void {
    if (this.isChanged[number] === true) return;
    this.isChanged[number] = true;
    this.changed.push(number);
  }
}
