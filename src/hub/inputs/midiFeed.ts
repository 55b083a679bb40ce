import type { FeedReport } from '../../core/inputs/feed';
import { describe, hexOf } from '../../core/midi/describe';
import { encode } from '../../core/midi/encode';
import type { MidiMessage } from '../../core/midi/message';
import { MidiSources } from '../../core/midi/sources';
import { StreamParser } from '../../core/midi/streamParser';
import { Thru } from '../../core/midi/thru';
import { SongClock } from '../../core/time/songClock';
import { MidiStreams } from '../../core/voices/midiStreams';
import type { Player } from '../player';
import { hubTimeMs } from '../time';
import type { Feed, FeedWhereabouts, Intake } from './intake';
import type { RigInput } from '../../core/inputs/kinds';
import type { MidiThru } from '../../core/inputs/kinds/midi';

type MidiInput = Extract<RigInput, { kind: 'midi' }>;

/** How soon it is looked after halves of 14-bit values that wait for their partner. */
const SETTLE_MS = 5;

/** One MIDI input: its bytes become sources, and what its thru says goes straight on. */
export class MidiFeed {
  readonly feed: Feed;
  private readonly parser = new StreamParser((message) => this.hear(message));
  private readonly sources: MidiSources;
  private timeMs = 0;
  private readonly clock = new SongClock();
  /** What its next clock begins. */
  private begins: 'start' | 'continue' | null = null;
  private timer: NodeJS.Timeout | null = null;
  private readonly through = new Thru();
  private readonly streams: MidiStreams;
  /** Whether the message that is heard is of voices alone, and what of the feed the rig knows as signals. */
  private ofVoices = false;
  private mapped: ReadonlySet<string> = new Set();
  /** Tells its notes from those of others. */
  private readonly name: string;

  constructor(
    report: Omit<FeedReport, 'kind'>,
    whereabouts: FeedWhereabouts,
    private readonly player: Player,
    private readonly intake: Intake,
  ) {
    this.feed = intake.connect({ kind: 'midi', ...report }, whereabouts);
    this.name = `${whereabouts.connection} ${report.report}`;
    this.streams = new MidiStreams({
      voice: (stream, event) => {
        const number = player.streams.find(stream);
        if (number !== undefined) player.incoming.voice(number, this.timeMs, event);
      },
      pedal: (stream, controller, value) => {
        const number = player.streams.find(stream);
        if (number !== undefined) player.incoming.pedal(number, this.timeMs, controller, value);
      },
    });
    this.takeStreams();
    this.sources = new MidiSources((source, timeMs, value, isBack) => {
      // Sixteen channels of bends and pressures would fill the rig with signals that nobody maps.
      if (isBack ? !this.feed.sources.has(source.key) : this.ofVoices && !this.mapped.has(source.key)) return;
      this.intake.value(this.intake.source(this.feed, source), timeMs, value);
    });
  }

  push(bytes: Uint8Array, timeMs: number): void {
    this.timeMs = timeMs;
    this.parser.push(bytes);
    if (this.sources.settle(timeMs)) this.timer ??= setTimeout(this.settle, SETTLE_MS);
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.letGo();
    this.player.song.leaves(this, true);
    this.intake.disconnect(this.feed);
  }

  /** After the rig changed: what went through to where nothing goes through any more is ended. */
  rigChanged(): void {
    this.timeMs = hubTimeMs();
    this.takeStreams();
    if (this.through.leadsElsewhere(this.thru)) this.endThru();
    if (this.input?.followsClock !== true) this.player.song.leaves(this);
  }

  private takeStreams(): void {
    const { rig } = this.player;
    const { input } = this.feed;
    this.streams.setStreams(rig?.streams.filter((stream) => stream.input === input) ?? []);
    this.mapped = new Set(rig?.signals.flatMap((signal) => (signal.input === input ? (signal.source ?? []) : [])));
  }

  private get input(): MidiInput | undefined {
    const input = this.player.rig?.inputs.find(({ id }) => id === this.feed.input);
    return input?.kind === 'midi' ? input : undefined;
  }

  private get thru(): MidiThru | undefined {
    return this.input?.thru;
  }

  /** Clocks and what belongs to them lead the transport, where this input is chosen for that. */
  private lead(message: MidiMessage, timeMs: number): void {
    const { clock, player: { song } } = this;
    switch (message.kind) {
      case 'start':
        clock.start();
        this.begins = 'start';
        return;
      case 'continue':
        clock.goOn();
        this.begins = 'continue';
        return;
      case 'songPosition':
        return clock.position(message.sixteenths);
      case 'stop':
        clock.stop();
        this.begins = null;
        if (song.leads(this, this.feed.report.name)) song.stops();
        return;
      case 'clock': {
        const { begins } = this;
        const from = clock.nextBeat;
        const { bpm, beat } = clock.clock(timeMs);
        if (!song.leads(this, this.feed.report.name)) return;
        // The first clock after a start is its first beat (MIDI 1.0), so nothing begins before it.
        this.begins = null;
        if (begins === 'start') song.starts();
        else if (begins === 'continue') song.goesOn(from);
        song.clock(timeMs, bpm, beat);
      }
    }
  }

  private readonly settle = (): void => {
    this.timer = null;
    if (this.sources.settle(hubTimeMs())) this.timer = setTimeout(this.settle, SETTLE_MS);
  };

  private hear(message: MidiMessage): void {
    const { feed, timeMs } = this;
    // Whoever watches the port it comes from hears of it there; it is nothing that was played.
    if (message.kind === 'activeSensing') return;
    const bytes = encode(message);
    if (this.player.cameBack(feed.input, message)) {
      this.intake.showRaw(feed, () => ({ hubTimeMs: timeMs, text: describe(message), bytes: hexOf(bytes) }));
      return this.intake.heard(feed, timeMs);
    }
    for (let times = this.player.outputs.loops.received(feed.report.name, bytes, timeMs); times > 0; times--) {
      this.intake.showRaw(feed, () => ({ hubTimeMs: timeMs, text: describe(message), bytes: hexOf(bytes) }));
      this.intake.heard(feed, timeMs);
      this.streams.message(message);
      feed.remark = this.streams.assumed ? 'taken for MPE, which it did not say' : null;
      this.ofVoices = this.streams.isOfVoices(message);
      this.sources.message(message, timeMs);
      if (this.input?.followsClock === true) this.lead(message, timeMs);
      if (message.kind === 'start' || message.kind === 'continue' || message.kind === 'stop') this.player.door.onTransport(message.kind);
      this.ofVoices = false;
      this.passOn(message);
    }
  }

  private passOn(message: MidiMessage): void {
    for (const { output, bytes } of this.through.pass(message, this.thru)) this.player.pass(this.name, output, bytes);
  }

  /** The device has stopped saying that it is there. */
  missed(): void {
    this.feed.remark = 'has stopped saying that it is there: see to its cable';
    this.letGo();
    this.intake.letGo(this.feed);
  }

  /** Ends the voices of the feed and the notes that went through, and puts back what was held besides: bends, pressures, pedals. */
  letGo(): void {
    this.timeMs = hubTimeMs();
    this.sources.letGo(this.timeMs);
    this.streams.letGo();
    for (const stream of this.player.rig?.streams ?? []) {
      const number = stream.input === this.feed.input ? this.player.streams.find(stream.id) : undefined;
      if (number !== undefined) this.player.incoming.endStream(number);
    }
    this.endThru();
  }

  private endThru(): void {
    this.player.endThru(this.name);
    for (const { output, bytes } of this.through.letGo()) this.player.pass(this.name, output, bytes);
  }
}
