import type { FeedReport, Found, SourceReport } from '../../core/inputs/feed';
import { isInputOf, isOfAnySender, isSignalOf, letGoOf, oscKey } from '../../core/inputs/feed';
import { inputKind } from '../../core/inputs/kinds';
import type { RigDocument, RigSignal } from '../../core/rig/document';
import type { FeedState, RawLine } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import type { Player } from '../player';
import { hubTimeMs } from '../time';

/** What arrives new is told together this often. */
const TELL_MS = 250;
/** What was told and is still unknown (no web process, on Stage) is told again after this. */
const TELL_AGAIN_MS = 3000;
/** A feed that was heard before and not for this long is silent. */
const SILENT_MS = 2000;
/** Rates are smoothed over about this long. */
const RATE_MS = 1000;
/** A gone feed is remembered, so that its input can say so. */
const REMEMBERED_GONE = 64;

/** One stream of numbers of a feed, and the signal that stands for it, by hub number. */
export interface Source extends Beat {
  readonly feed: Feed;
  readonly report: SourceReport;
  signal: number | null;
  lastMs: number;
  value: number;
  toldMs: number;
}

/** Counts what came, for a rate that does not jump. Its fields lie in what is counted: with thousands of these, each object costs. */
interface Beat {
  count: number;
  counted: number;
  rateHz: number;
}

const noBeat = (): Beat => ({ count: 0, counted: 0, rateHz: 0 });

function measure(beat: Beat, overMs: number): void {
  const now = ((beat.count - beat.counted) * 1000) / overMs;
  beat.counted = beat.count;
  beat.rateHz += (now - beat.rateHz) * Math.min(1, (2 * overMs) / RATE_MS);
  if (beat.rateHz < 0.05) beat.rateHz = 0;
}

export interface FeedWhereabouts {
  /** Tells two connections apart that say the same of themselves. */
  connection: string;
  /** In words, for a person. */
  where: string;
  /** For feeds that stand for one input whatever they report (a recording, points of light). */
  input?: string;
}

/** A feed that is or was connected. */
export class Feed implements Beat {
  readonly sources = new Map<string, Source>();
  count = 0;
  counted = 0;
  rateHz = 0;
  lastMs = NaN;
  gone = false;
  /** The input of the rig that stands for it. */
  input: string | null = null;
  /** What a person should know of it; null for nothing. */
  remark: string | null = null;
  /** The one that took over its place, as long as this one keeps silent. */
  successor: Feed | null = null;

  constructor(
    public report: FeedReport & { slot: number },
    readonly whereabouts: FeedWhereabouts,
  ) {}
}

type RawListener = (line: RawLine) => void;

/**
 * Where everything but surfaces comes in: knows the feeds that are there, which inputs and signals of the rig stand for
 * them, and passes their numbers on. What the rig does not know is told to the web process, which takes it up.
 */
export class Intake {
  listening = true;
  private readonly feeds = new Map<string, Feed>();
  private readonly rawListeners = new Map<string, Set<RawListener>>();
  private found = new Set<Source>();
  private timer: NodeJS.Timeout | null = null;
  private measuredMs = hubTimeMs();
  private indexed: RigDocument | null = null;
  /** The signals of the rig by the key of the source that they stand for. */
  private signalsByKey = new Map<string, RigSignal[]>();

  constructor(
    private readonly player: Player,
    private readonly onFound: (found: Found[]) => void,
  ) {}

  /**
   * A feed is there (again). Its place among feeds that say the same is the lowest that no other one holds now. An OSC
   * sender that comes on another socket first takes the place of the one that spoke last, as most that change sockets are
   * the same thing; if that one speaks again there are two, and the newcomer moves on.
   */
  connect(report: FeedReport, whereabouts: FeedWhereabouts): Feed {
    const key = `${report.kind} ${whereabouts.connection} ${report.report}`;
    const known = this.feeds.get(key);
    if (known && !known.gone) return known;
    const same = this.alike(report);
    const before = inputKind(report.kind).moves ? same.filter((feed) => isHere(feed) && !feed.successor).sort((a, b) => b.lastMs - a.lastMs)[0] : undefined;
    const slot = before ? before.report.slot : lowestFree(same);
    for (const other of same) if (other.report.slot === slot && !isHere(other)) this.forget(other);
    const feed = new Feed({ ...report, slot }, whereabouts);
    if (before) before.successor = feed;
    this.makeRoom();
    this.feeds.set(key, feed);
    this.resolveFeed(feed);
    return feed;
  }

  /** The source of this key, made where the feed had none of it. */
  source(feed: Feed, report: SourceReport): Source {
    const known = feed.sources.get(report.key);
    if (known) return known;
    const source: Source = { feed, report, signal: null, lastMs: NaN, value: NaN, toldMs: -Infinity, ...noBeat() };
    feed.sources.set(report.key, source);
    this.resolveSource(source);
    return source;
  }

  /** A raw number arrived; `heldOn`: of a gate that was held while its line was lost. */
  value(source: Source, timeMs: number, value: number, heldOn = false): void {
    const { feed } = source;
    this.heard(feed, timeMs);
    source.lastMs = timeMs;
    source.count++;
    source.value = value;
    if (source.signal !== null) this.player.incoming.sample(source.signal, timeMs, value, null, heldOn);
    // Before there is a rig nothing is unknown to it.
    else if (this.listening && this.player.rig) this.tellOf(source, timeMs);
  }

  /** Something arrived from a feed. */
  heard(feed: Feed, timeMs: number): void {
    if (feed.successor) this.part(feed, feed.successor);
    feed.lastMs = timeMs;
    feed.count++;
  }

  /** The feed left, or with `lost` is not heard any more: what it held is let go of. */
  disconnect(feed: Feed, lost = false): void {
    if (feed.gone) return;
    feed.gone = true;
    this.letGo(feed, lost);
    const gone = [...this.feeds].filter(([, other]) => other.gone);
    for (const [key] of gone.slice(0, Math.max(0, gone.length - REMEMBERED_GONE))) this.feeds.delete(key);
  }

  /**
   * Lets go of what a feed holds. Where its line was lost that is its gates alone: a stick may still be held, and says where it is
   * when it is heard again.
   */
  letGo(feed: Feed, lost = false): void {
    const timeMs = hubTimeMs();
    for (const source of feed.sources.values()) {
      const isGate = source.report.kind === 'gate';
      const value = letGoOf(source.report);
      if (value === null || (lost && !isGate) || !Number.isFinite(source.value) || source.value === value) continue;
      source.value = value;
      if (source.signal === null) continue;
      this.player.incoming.sample(source.signal, timeMs, value, null);
      if (lost) this.player.incoming.lost.add(source.signal);
    }
  }

  /** After the rig changed: which inputs and signals stand for what is here. New ones hear the present value at once. */
  rigChanged(): void {
    const { rig } = this.player;
    const known = this.indexed;
    this.indexed = rig;
    // Most edits touch neither inputs nor signals.
    if (known && rig && known.inputs === rig.inputs && known.signals === rig.signals) return;
    this.signalsByKey = new Map();
    for (const signal of this.indexed?.signals ?? []) {
      const key = signal.osc ? oscKey(signal.osc.address, signal.osc.argument) : signal.source;
      if (key !== undefined) this.signalsByKey.set(key, [...(this.signalsByKey.get(key) ?? []), signal]);
    }
    const all = [...this.feeds.values()].flatMap((feed) => {
      this.resolveFeed(feed);
      return [...feed.sources.values()].map((source) => {
        const before = source.signal;
        this.resolveSource(source);
        return { source, before };
      });
    });
    const timeMs = hubTimeMs();
    const moved = all.filter(({ source: { signal, feed }, before }) => signal !== before && !feed.gone);
    for (const { source, before } of moved) this.leave(source, before, timeMs);
    for (const { source: { signal, value, report }, before } of moved) {
      // A key that is still held is heard from its first press on, unless it was another's; one that was let go of is not pressed again.
      const says = report.kind === 'continuous' ? Number.isFinite(value) : value > 0 && before === null;
      if (signal !== null && says) this.player.incoming.sample(signal, timeMs, value, null);
    }
  }

  /** What moved a signal moves another one now, or none: what it held there nobody else would let go of. */
  private leave({ report, value: held }: Source, signal: number | null, timeMs: number): void {
    const value = letGoOf(report);
    if (signal === null || value === null || !Number.isFinite(held) || held === value) return;
    this.player.incoming.sample(signal, timeMs, value, null);
  }

  /** Lists the raw messages of an input until the returned function is called. */
  listRaw(input: string, listener: RawListener): () => void {
    const listeners = this.rawListeners.get(input) ?? new Set();
    this.rawListeners.set(input, listeners.add(listener));
    return () => {
      listeners.delete(listener);
      if (listeners.size === 0) this.rawListeners.delete(input);
    };
  }

  /** Whether anybody lists raw messages. */
  get listsRaw(): boolean {
    return this.rawListeners.size > 0;
  }

  /** Shows a message to whoever lists those of its input; `line` is only made where somebody does. */
  showRaw(feed: Feed, line: () => RawLine): void {
    if (feed.input === null) return;
    const listeners = this.rawListeners.get(feed.input);
    if (!listeners) return;
    const made = line();
    for (const listener of listeners) listener(made);
  }

  /** How everything is; rates are measured from one call to the next. */
  state(): FeedState[] {
    const nowMs = hubTimeMs();
    const overMs = Math.max(1, nowMs - this.measuredMs);
    this.measuredMs = nowMs;
    const ago = (lastMs: number) => (Number.isNaN(lastMs) ? null : Math.max(0, Math.round(nowMs - lastMs)));
    return [...this.feeds.values()].filter(({ successor }) => !successor).map((feed) => {
      measure(feed, overMs);
      let unknown = 0;
      const signals = [...feed.sources.values()].flatMap((source) => {
        measure(source, overMs);
        const { signal, rateHz, lastMs } = source;
        if (signal === null) {
          unknown++;
          return [];
        }
        return [{ id: this.player.signals.idOf(signal)!, rateHz: rounded(rateHz), lastHeardMsAgo: ago(lastMs) }];
      });
      const { report, whereabouts, rateHz, count, lastMs, gone, input, remark } = feed;
      return {
        ...report,
        input,
        state: gone ? 'gone' : nowMs - lastMs > SILENT_MS ? 'silent' : 'live',
        where: whereabouts.where,
        remark,
        rateHz: rounded(rateHz),
        lastHeardMsAgo: ago(lastMs),
        count,
        signals,
        unknown,
      };
    });
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
  }

  private alike({ kind, report }: FeedReport): Feed[] {
    return [...this.feeds.values()].filter((feed) => feed.report.kind === kind && feed.report.report === report);
  }

  /** Two that were taken for one both speak: the later one gets a place of its own. */
  private part(first: Feed, second: Feed): void {
    first.successor = null;
    if (second.gone || second.report.slot !== first.report.slot) return;
    second.report = { ...second.report, slot: lowestFree(this.alike(second.report)) };
    this.resolveFeed(second);
    for (const source of second.sources.values()) this.resolveSource(source);
  }

  /** Of too many OSC senders the one that has been silent longest goes; it is known anew when it speaks. */
  private makeRoom(): void {
    if (this.feeds.size < LIMITS.feeds) return;
    const senders = [...this.feeds.values()].filter(({ report }) => report.kind === 'osc');
    const oldest = senders.reduce<Feed | null>((least, feed) => (least && least.lastMs <= feed.lastMs ? least : feed), null);
    if (oldest) this.forget(oldest);
  }

  /** Whoever still holds it sees that it is gone and connects anew. */
  private forget(feed: Feed): void {
    feed.gone = true;
    for (const [key, other] of this.feeds) if (other === feed) this.feeds.delete(key);
  }

  private resolveFeed(feed: Feed): void {
    const inputs = this.player.rig?.inputs ?? [];
    const { report, whereabouts } = feed;
    feed.input = inputs.find((input) => (whereabouts.input === undefined ? isInputOf(input, report) : input.id === whereabouts.input))?.id ?? null;
  }

  private resolveSource(source: Source): void {
    const { rig, signals } = this.player;
    const { feed, report } = source;
    const { osc } = report;
    const candidates = (this.signalsByKey.get(report.key) ?? []).filter((signal) => isSignalOf(signal, report));
    const own = feed.input === null ? undefined : candidates.find(({ input }) => input === feed.input);
    const open = own ?? (osc && candidates.find(({ input }) => rig?.inputs.some((known) => known.id === input && isOfAnySender(known))));
    source.signal = open ? (signals.find(open.id) ?? null) : null;
    if (open && feed.input === null) feed.input = open.input;
  }

  private tellOf(source: Source, timeMs: number): void {
    if (timeMs - source.toldMs < TELL_AGAIN_MS) return;
    source.toldMs = timeMs;
    this.found.add(source);
    this.timer ??= setTimeout(() => this.tell(), TELL_MS);
  }

  private tell(): void {
    this.timer = null;
    const byFeed = new Map<Feed, SourceReport[]>();
    for (const source of this.found) {
      if (source.signal !== null) continue;
      // A feed that says at once all that it has is taken up whole; others grow as they are heard.
      const whole = inputKind(source.feed.report.kind).comesWhole;
      byFeed.set(source.feed, whole ? [...source.feed.sources.values()].map(({ report }) => report) : [...(byFeed.get(source.feed) ?? []), source.report]);
    }
    this.found.clear();
    if (byFeed.size > 0 && this.listening) this.onFound([...byFeed].map(([{ report, input }, sources]) => ({ feed: report, ...(input === null ? {} : { input }), sources })));
  }
}

function lowestFree(same: readonly Feed[]): number {
  const held = new Set(same.filter(isHere).map(({ report: { slot } }) => slot));
  let slot = 1;
  while (held.has(slot)) slot++;
  return slot;
}

/** Whether a feed holds its place: one that spoke lately, or that never said goodbye and has no clock to go by. */
function isHere(feed: Feed): boolean {
  if (feed.gone) return false;
  return feed.report.kind !== 'osc' || hubTimeMs() - feed.lastMs <= SILENT_MS;
}

const rounded = (rateHz: number) => Math.round(rateHz * 10) / 10;
