import { randomUUID } from 'node:crypto';
import type { FromClient } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import { inputKind } from '../../core/inputs/kinds';
import { HeldVoices } from '../heldVoices';
import type { Refuse } from '../refuse';
import type { Player } from '../player';
import type { Feed, Intake, Source } from './intake';
import { MidiFeed } from './midiFeed';

type Told = Extract<FromClient, { kind: 'feed' }>;

interface Brought {
  feed: Feed;
  midi: MidiFeed | null;
  number: number;
  /** The numbers of its streams, in the order of its kind. */
  streams: number[];
}

/** A stream of a feed: what it is called within it, and its number in the hub, -1 where the rig has none. */
interface BroughtStream {
  feed: Feed;
  source: string;
  stream: number;
}

/** What a frame can name a source by. */
const MOST = 0xffff;

/** The feeds that one client brings: gamepads, its own motion, MIDI ports of its browser, keyboard and pointer. */
export class ClientFeeds {
  private readonly byName = new Map<string, Brought>();
  /** By the numbers that the client was given: never given twice, so that a late frame means what it meant. */
  private readonly sources = new Map<number, Source>();
  private readonly numbers = new Map<Source, number>();
  private readonly feeds = new Map<number, Brought>();
  /** By the numbers that the client was given, as sources are. */
  private readonly streams = new Map<number, BroughtStream>();
  private readonly voices: HeldVoices;
  private nextSource = 0;
  private nextStream = 0;
  private nextFeed = 0;
  private readonly connection = randomUUID();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
    /** The joined feed whose client it is: what it brings is its own, and never a feed of the host. */
    private readonly owner: string | null = null,
  ) {
    this.voices = new HeldVoices(player);
  }

  /** The numbers under which the client sends what the feed says; null where it has brought too much already. */
  tell({ feed: name, report, sources }: Told): { sources: number[]; midi: number; streams: number[] } | null {
    let known = this.byName.get(name);
    const fresh = sources.filter(({ key }) => !known?.feed.sources.has(key)).length;
    if (this.nextSource + fresh > MOST || (fresh > 0 && (known?.feed.sources.size ?? 0) + fresh > LIMITS.sourcesPerFeed)) return null;
    if (!known) {
      const has = inputKind(report.kind).streams?.length ?? 0;
      if (this.byName.size >= LIMITS.feedsPerClient || this.nextStream + has > MOST) return null;
      const connected = this.connect(name, report);
      known = { ...connected, number: this.nextFeed++, streams: this.numberStreams(connected) };
      this.byName.set(name, known);
      this.feeds.set(known.number, known);
    }
    const { feed, number, streams } = known;
    return { sources: sources.map((source) => this.numberOf(this.intake.source(feed, source))), midi: number, streams };
  }

  /** A feed went; with `lost` it is not known whether it did. */
  gone(name: string, lost = false): void {
    const known = this.byName.get(name);
    if (!known) return;
    this.byName.delete(name);
    this.feeds.delete(known.number);
    for (const source of known.feed.sources.values()) {
      const number = this.numbers.get(source);
      if (number !== undefined) this.sources.delete(number);
      this.numbers.delete(source);
    }
    this.endVoices(known);
    if (known.midi) known.midi.close();
    else this.intake.disconnect(known.feed, lost);
  }

  /** Takes a frame of voices of its feeds, by the numbers that their streams were given. */
  takeVoices(view: DataView, refuse: Refuse): void {
    this.voices.take(view, refuse, (named, i) => {
      const known = this.streams.get(named);
      if (known && !known.feed.gone) return known.stream;
      refuse('unknown-signal', `voices[${i}].stream`, `This page has told of no stream ${named}.`);
      return null;
    });
  }

  /** Ends what the feeds hold; they stay. */
  letGo(): void {
    for (const { feed, midi } of this.byName.values()) {
      midi?.letGo();
      this.intake.letGo(feed);
    }
    this.voices.endAll();
  }

  /** A source that this client told of. */
  source(number: number): Source | undefined {
    const source = this.sources.get(number);
    return source && !source.feed.gone ? source : undefined;
  }

  midi(number: number): MidiFeed | undefined {
    const known = this.feeds.get(number);
    return known && !known.feed.gone ? (known.midi ?? undefined) : undefined;
  }

  rigChanged(): void {
    for (const { midi } of this.byName.values()) midi?.rigChanged();
    this.findStreams();
  }

  /** A feed of MIDI has its streams by itself: what it plays comes as bytes. */
  private numberStreams({ feed, midi }: Pick<Brought, 'feed' | 'midi'>): number[] {
    if (midi) return [];
    const numbers = (inputKind(feed.report.kind).streams ?? []).map(({ source }) => {
      this.streams.set(this.nextStream, { feed, source, stream: -1 });
      return this.nextStream++;
    });
    this.findStreams();
    return numbers;
  }

  /** Which streams of the rig stand for those of the feeds; voices of one that went have ended with it. */
  private findStreams(): void {
    const { rig, streams } = this.player;
    for (const known of this.streams.values()) {
      const stands = known.feed.input === null ? undefined : rig?.streams.find(({ input, source }) => input === known.feed.input && source === known.source);
      known.stream = stands ? (streams.find(stands.id) ?? -1) : -1;
    }
    this.endOtherVoices();
  }

  private endVoices({ streams }: Brought): void {
    for (const number of streams) this.streams.delete(number);
    this.endOtherVoices();
  }

  /** Voices of streams that nothing here plays any more. */
  private endOtherVoices(): void {
    this.voices.endOthers(new Set([...this.streams.values()].map(({ stream }) => stream)));
  }

  close(): void {
    for (const name of [...this.byName.keys()]) this.gone(name, true);
  }

  private numberOf(source: Source): number {
    const known = this.numbers.get(source);
    if (known !== undefined) return known;
    const number = this.nextSource++;
    this.sources.set(number, source);
    this.numbers.set(source, number);
    return number;
  }

  private connect(name: string, report: Told['report']): Pick<Brought, 'feed' | 'midi'> {
    const whereabouts = { connection: `${this.connection} ${name}`, where: 'a page' };
    if (this.owner !== null) return { feed: this.intake.connect({ ...report, report: `device ${this.owner}` }, whereabouts), midi: null };
    if (report.kind !== 'midi') return { feed: this.intake.connect(report, whereabouts), midi: null };
    const midi = new MidiFeed(report, whereabouts, this.player, this.intake);
    return { feed: midi.feed, midi };
  }
}
