import { WebSocket } from 'ws';
import { decodeCaptured, decodeHeard, decodeValues, encodeMidi, encodeSamples, FRAME } from '../../src/protocol/frames';
import { voiceEvent, type VoiceField } from '../../src/core/voices/event';
import { encodeVoices } from '../../src/protocol/voiceFrames';
import type { FeedReport, SourceReport } from '../../src/core/inputs/feed';
import { LIVE_VERSION, type FromClient, type InputsState, type ToClient, type Watch, type Watched } from '../../src/protocol/live';
import { NamesBook } from '../../src/protocol/names';
import { WatchList } from '../../src/web/live/watchList';
import { waitFor } from './pumice';

/** A page on the live line without a browser. */
export class TestClient {
  readonly messages: ToClient[] = [];
  readonly values = new Map<string, number>();
  /** What receivers were heard to hold, as `output kind channel number value`. */
  readonly heard: string[] = [];
  /** Raw numbers of captured signals, as they came. */
  readonly captured: { signal: string; value: number }[] = [];
  closedWith: number | null = null;
  private readonly names = new NamesBook();
  private readonly watched = new WatchList(this.names, (message) => (this.tell(message), true));
  private sequence = 0;

  private constructor(readonly socket: WebSocket) {
    socket.binaryType = 'arraybuffer';
    socket.on('message', (data, isBinary) => {
      if (isBinary) return this.hearFrame(new DataView(data as ArrayBuffer));
      const message = JSON.parse(new TextDecoder().decode(data as ArrayBuffer)) as ToClient;
      if ('names' in message) {
        this.names.learn(message.names);
        this.watched.namesChanged();
      }
      this.messages.push(message);
    });
    socket.on('close', (code) => (this.closedWith = code));
    socket.on('error', () => undefined);
  }

  /** A page of a joined device, on the network's side. Not awaited to be let in. */
  static device(url: string, cookie: string | null, surface: string, ca?: string): TestClient {
    const client = new TestClient(new WebSocket(url, { perMessageDeflate: false, ...(ca ? { ca } : {}), ...(cookie ? { headers: { cookie } } : {}) }));
    client.socket.once('open', () => client.tell({ kind: 'hello', version: LIVE_VERSION, surface }));
    return client;
  }

  static async open(hubPort: number, surface?: string): Promise<TestClient> {
    const socket = new WebSocket(`ws://127.0.0.1:${hubPort}/live`, { perMessageDeflate: false });
    const client = new TestClient(socket);
    await new Promise((resolve, reject) => {
      socket.once('open', resolve);
      socket.once('error', reject);
    });
    client.tell({ kind: 'hello', version: LIVE_VERSION, ...(surface ? { surface } : {}) });
    await waitFor('the names of a rig', () => client.names.signals.size > 0);
    return client;
  }

  tell(message: FromClient): void {
    this.socket.send(JSON.stringify(message));
  }

  /** Watches these from now on, by their ids, and whatever else a watch may hold. */
  watch({ signals = [], mappings = [], outputs = [], captured = [], ...watch }: Watch & Partial<Record<Watched, string[]>>): void {
    this.tell({ kind: 'watch', watch });
    for (const [what, ids] of Object.entries({ signals, mappings, outputs, captured })) this.watched.want(what as Watched, ids);
  }

  move(signal: string, value: number, hubTimeMs = 0): void {
    this.socket.send(encodeSamples(this.sequence++, hubTimeMs, [{ signal: this.numberOf(signal), value }]));
  }

  /** Something of a voice; what is not said of it is left out. */
  voice(stream: string, kind: 'on' | 'move' | 'off', voice: number, said: Partial<Record<VoiceField, number>> = {}): void {
    this.socket.send(encodeVoices(this.sequence++, 0, [{ ...voiceEvent(kind), stream: this.names.streams.numberOf(stream) ?? -1, voice, ...said }]));
  }

  numberOf(signal: string): number {
    return this.names.signals.numberOf(signal) ?? -1;
  }

  mappingNumber(mapping: string): number {
    return this.names.mappings.numberOf(mapping) ?? -1;
  }

  /** Brings a feed; gives the numbers of its sources, and of its MIDI. */
  async bring(feed: string, report: FeedReport, sources: SourceReport[]): Promise<{ sources: number[]; midi: number }> {
    this.tell({ kind: 'feed', feed, report, sources } as FromClient);
    const answer = await waitFor('the numbers of the feed', () => this.messages.find((message) => message.kind === 'feed' && message.feed === feed));
    return answer as unknown as { sources: number[]; midi: number };
  }

  /** Sends a value of a source by its number. */
  say(source: number, value: number): void {
    this.sayAll([{ signal: source, value }]);
  }

  /** Sends values that happened at one moment. */
  sayAll(values: { signal: number; value: number }[]): void {
    this.socket.send(encodeSamples(this.sequence++, 0, values, FRAME.sources));
  }

  midi(device: number, ...bytes: number[]): void {
    this.socket.send(encodeMidi(device, 0, bytes));
  }

  /** How inputs are, as last told; needs a watch of them. */
  get inputs(): InputsState | undefined {
    return this.messages.flatMap((message) => (message.kind === 'inputs' ? [message.inputs] : [])).at(-1);
  }

  get raw(): string[] {
    return this.messages.flatMap((message) => (message.kind === 'raw' ? message.lines.map(({ text }) => text) : []));
  }

  get problems() {
    return this.messages.flatMap((message) => (message.kind === 'problem' ? [message.problem] : []));
  }

  close(): void {
    this.socket.close();
  }

  private hearFrame(view: DataView): void {
    if (view.getUint8(0) === FRAME.heard) {
      const { output, heard } = decodeHeard(view)!;
      for (const { kind, channel, number, value } of heard) this.heard.push([this.names.outputs.idOf(output), kind, channel, number, value].join(' '));
    }
    if (view.getUint8(0) === FRAME.captured) {
      for (const { signal, value } of decodeCaptured(view)!.captured) this.captured.push({ signal: this.names.signals.idOf(signal)!, value });
    }
    if (view.getUint8(0) !== FRAME.values) return;
    const frame = decodeValues(view)!;
    frame.numbers.forEach((number, i) => this.values.set(this.names.signals.idOf(number)!, frame.values[i]!));
  }
}
