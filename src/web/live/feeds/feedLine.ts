import type { FeedReport, SourceReport } from '../../../core/inputs/feed';
import { encodeMidi, encodeSamples, FRAME } from '../../../protocol/frames';
import { SAYS, type VoiceEvent } from '../../../core/voices/event';
import { encodeVoices } from '../../../protocol/voiceFrames';
import type { LiveConnection } from '../connection';
import { HERE } from '../store';

interface Told {
  report: FeedReport;
  sources: SourceReport[];
  /** By source key, once the hub has numbered them. */
  numbers: Map<string, number>;
  /** What was said before that, the latest of each source: a sensor that lies still may say it once only. */
  waiting: Map<string, number>;
  /** By source key: what its gates say while they are held. */
  held: Map<string, number>;
  /** By source key: where what springs back is. It may have sprung while the line was silent and not known to be lost. */
  sprung: Map<string, number>;
  /** The gates that have been held since before the line was lost. */
  heldOn: Set<string>;
  gates: ReadonlySet<string>;
  springs: ReadonlySet<string>;
  midi: number | null;
  /** The numbers of its streams, in the order of its kind. */
  streams: number[];
  /** MIDI that came before it was numbered, in order. */
  waitingMidi: { bytes: ArrayLike<number>; pageTimeMs: number }[];
  /** By stream and voice: what sounds now. */
  voices: Map<string, HeldVoice>;
}

/** A voice as it would begin now, and whether the hub heard that it did. */
interface HeldVoice {
  stream: number;
  begins: Omit<VoiceEvent, 'stream'>;
  isHeard: boolean;
}

/** So many messages wait at most; the oldest go first. */
const WAITING_MIDI = 256;

/**
 * What the feeds of this page say, on its way to the hub: told again whenever the line is there again. The hub let go of what was
 * held when the line broke, so that is said again, too, voices as they are by then, and where what springs back is.
 */
export class FeedLine {
  private readonly feeds = new Map<string, Told>();
  private readonly stops: (() => void)[];

  constructor(private readonly live: LiveConnection) {
    this.stops = [
      live.state.listen(() => this.retell()),
      live.store.feedNumbered.listen(HERE, (name, sources, midi, streams) => {
        const told = this.feeds.get(name);
        if (!told) return;
        told.numbers = new Map(told.sources.slice(0, sources.length).map(({ key }, i) => [key, sources[i]!]));
        told.midi = midi;
        told.streams = streams;
        for (const { bytes, pageTimeMs } of told.waitingMidi.splice(0)) this.sendMidi(name, bytes, pageTimeMs);
        const waiting = [...told.waiting].map(([key, value]) => ({ key, value }));
        const { heldOn } = told;
        told.waiting.clear();
        told.heldOn = new Set();
        const nowMs = performance.timeOrigin + performance.now();
        this.send(name, waiting.filter(({ key }) => !heldOn.has(key)), nowMs);
        this.send(name, waiting.filter(({ key }) => heldOn.has(key)), nowMs, FRAME.sourcesHeldOn);
        for (const held of told.voices.values()) if (!held.isHeard) held.isHeard = this.sayVoice(told, held.stream, held.begins, nowMs);
      }),
    ];
  }

  add(name: string, report: FeedReport, sources: SourceReport[]): void {
    const keysOf = (are: (source: SourceReport) => boolean) => new Set(sources.flatMap((source) => (are(source) ? [source.key] : [])));
    const [gates, springs] = [keysOf(({ kind }) => kind === 'gate'), keysOf((source) => source.springs === true)];
    this.feeds.set(name, { report, sources, gates, springs, numbers: new Map(), waiting: new Map(), held: new Map(), sprung: new Map(), heldOn: new Set(), midi: null, waitingMidi: [], streams: [], voices: new Map() });
    this.tell(name);
  }

  remove(name: string): void {
    if (this.feeds.delete(name)) this.live.tell({ kind: 'feedGone', feed: name });
  }

  /** Sends values of a feed that happened at one moment. False where the hub does not know them (yet). */
  send(name: string, values: readonly { key: string; value: number }[], pageTimeMs: number, frame: typeof FRAME.sources | typeof FRAME.sourcesHeldOn = FRAME.sources): boolean {
    const told = this.feeds.get(name);
    if (!told) return false;
    const { numbers, waiting, held, heldOn, gates, springs, sprung } = told;
    for (const { key, value } of values) {
      if (springs.has(key)) sprung.set(key, value);
      if (!gates.has(key)) continue;
      if (value > 0) held.set(key, value);
      else for (const known of [held, heldOn]) known.delete(key);
    }
    if (numbers.size === 0) {
      for (const { key, value } of values) waiting.set(key, value);
      return false;
    }
    const numbered = values.flatMap(({ key, value }) => {
      const signal = numbers.get(key);
      return signal === undefined ? [] : [{ signal, value }];
    });
    return numbered.length > 0 && this.live.sendFrame((sequence, toHubMs) => encodeSamples(sequence, toHubMs(pageTimeMs), numbered, frame));
  }

  sendMidi(name: string, bytes: ArrayLike<number>, pageTimeMs: number): boolean {
    const told = this.feeds.get(name);
    if (!told) return false;
    const { midi, waitingMidi } = told;
    if (midi !== null) return this.live.sendFrame((_, toHubMs) => encodeMidi(midi, toHubMs(pageTimeMs), bytes));
    // What is played while the line is down is over when it is back.
    if (this.live.status !== 'open') return false;
    waitingMidi.push({ bytes, pageTimeMs });
    if (waitingMidi.length > WAITING_MIDI) waitingMidi.shift();
    return false;
  }

  /**
   * Sends what happened to a voice of a stream of a feed, the stream by its place among those of its kind. One that began before the hub knew
   * the stream begins when it does.
   */
  sendVoice(name: string, stream: number, voice: Omit<VoiceEvent, 'stream'>, pageTimeMs: number): void {
    const told = this.feeds.get(name);
    if (!told) return;
    const key = `${stream} ${voice.voice}`;
    const held = told.voices.get(key);
    if (voice.kind === 'on') return void told.voices.set(key, { stream, begins: { ...voice }, isHeard: this.sayVoice(told, stream, voice, pageTimeMs) });
    if (voice.kind === 'off') told.voices.delete(key);
    else if (held) for (const field of SAYS.move) if (!Number.isNaN(voice[field])) held.begins[field] = voice[field];
    if (held?.isHeard) this.sayVoice(told, stream, voice, pageTimeMs);
  }

  private sayVoice({ streams }: Told, stream: number, voice: Omit<VoiceEvent, 'stream'>, pageTimeMs: number): boolean {
    const number = streams[stream];
    return number !== undefined && this.live.sendFrame((sequence, toHubMs) => encodeVoices(sequence, toHubMs(pageTimeMs), [{ ...voice, stream: number }], 0, FRAME.feedVoices));
  }

  /** Done once the hub has heard what was said until now, or the line is down. */
  said(): Promise<void> {
    return this.live.said();
  }

  close(): void {
    for (const stop of this.stops) stop();
    for (const name of [...this.feeds.keys()]) this.remove(name);
  }

  private retell(): void {
    if (this.live.status === 'open') for (const name of this.feeds.keys()) this.tell(name);
    else for (const told of this.feeds.values()) this.lose(told);
  }

  private lose(told: Told): void {
    // What was pressed after the hub had numbered it last was never heard: it is a press when it is.
    if (told.numbers.size > 0) told.heldOn = new Set(told.held.keys());
    for (const held of told.voices.values()) held.isHeard = false;
    Object.assign(told, { numbers: new Map(), midi: null, waitingMidi: [], streams: [], waiting: new Map([...told.waiting, ...told.held, ...told.sprung]) });
  }

  private tell(name: string): void {
    const told = this.feeds.get(name);
    if (told) this.live.tell({ kind: 'feed', feed: name, report: told.report, sources: told.sources });
  }
}
