import { browserLock } from './browserLock';

const LAST_WORDS_MS = 500;
/** Looked at twice in the time after which nothing heard or seen means that something is wrong. */
export const SILENT_MS = 2000;

/** As the id of what the browser lends: somebody that ships with the program. */
const STAND_IN = 'stand-in ';
export const standInId = (id: string) => `${STAND_IN}${id}`;
export const isStandIn = (deviceId: string) => deviceId.startsWith(STAND_IN);
export const standInOf = (deviceId: string) => deviceId.slice(STAND_IN.length);

interface Wanted<Profile> {
  deviceId: string;
  name: string;
  profile: Profile;
}

/** What a page is told of its feed. */
export interface LentFeedEvents<Message> {
  told(message: Message): void;
  /** One sentence on what is wrong, null once it is right again. */
  problem(sentence: string | null): void;
  ended(): void;
}

/** What differs between a microphone and a camera in words and names. */
export interface LentFeedKind {
  /** Held by the window of a browser that has it: of two, one would be heard or seen twice. */
  lock: string;
  permission: 'microphone' | 'camera';
  /** Another window has it; it went; it cannot be used for a reason of its own. */
  taken: string;
  gone: string;
  unusable: string;
  /** By name of the browser's error. */
  refused: Readonly<Record<string, string>>;
  /** Why none can be had here, in one sentence; null where it can be asked for. */
  obstacle(): string | null;
}

/**
 * A microphone or camera that the browser lends to a page, followed in a worker: asked for, held by one window, lost and taken again by itself. A
 * stand-in needs nothing of all this.
 */
export abstract class LentFeed<Profile, To extends { kind: string }, From, Source> {
  /** What runs now; a stand-in has no source. */
  protected now: { worker: Worker; source: Source | null; unlock: () => void } | null = null;
  /** What is being taught: a feed that was lost and is back is told again. */
  protected teaches: To | null = null;
  private wanted: Wanted<Profile> | null = null;
  private unwatch = () => undefined as void;
  private tries = false;
  private opening: Promise<string | null> = Promise.resolve(null);

  constructor(
    protected readonly events: LentFeedEvents<From>,
    private readonly kind: LentFeedKind,
  ) {}

  /** Asks the browser for it. Throws what the browser throws. */
  protected abstract ask(deviceId: string): Promise<Source>;
  protected abstract trackOf(source: Source): MediaStreamTrack;
  protected abstract shut(source: Source): void;
  /** A worker that follows it, or a stand-in where there is no source. */
  protected abstract follow(wanted: Wanted<Profile>, source: Source | null): Worker;
  /** What is wrong with what comes of it, null for nothing; asked now and then. */
  protected abstract wrongWith(source: Source): string | null;

  /** From now on, until `stop`. What goes wrong at the first try ends it; later it is tried again by itself. */
  async start(deviceId: string, name: string, profile: Profile): Promise<void> {
    this.stop();
    const wanted = (this.wanted = { deviceId, name, profile });
    // One that was begun and stopped may still be asked about by the browser.
    const before = this.opening;
    this.opening = before.then(() => (this.wanted === wanted ? this.open(wanted) : null));
    const refused = await this.opening;
    if (this.wanted !== wanted) return;
    if (refused === null) return this.watchOver(wanted);
    this.end(refused);
  }

  tell(message: To): void {
    this.now?.worker.postMessage(message);
  }

  /** Goes on as somebody else, or set otherwise, also where it is lost now and comes back. */
  protected setProfile(profile: Profile): void {
    if (this.wanted) this.wanted.profile = profile;
  }

  stop(): void {
    this.wanted = null;
    this.teaches = null;
    this.unwatch();
    this.unwatch = () => undefined;
    this.close();
  }

  /** It ends for a reason. */
  protected end(sentence: string): void {
    this.stop();
    this.events.problem(sentence);
    this.events.ended();
  }

  /** Null where it runs now, or nobody wants it any more; else why not, in a sentence. */
  private async open(wanted: Wanted<Profile>): Promise<string | null> {
    if (isStandIn(wanted.deviceId)) return this.run(wanted, null, () => undefined);
    const obstacle = this.kind.obstacle();
    if (obstacle) return obstacle;
    const unlock = await browserLock(this.kind.lock);
    if (!unlock) return this.kind.taken;
    try {
      const source = await this.ask(wanted.deviceId);
      // While the browser asked, somebody may have thought better of it.
      if (this.wanted === wanted) return this.run(wanted, source, unlock);
      this.release(source);
      unlock();
      return null;
    } catch (error) {
      unlock();
      return this.wanted !== wanted ? null : (this.kind.refused[(error as Error).name] ?? `${this.kind.unusable}: ${(error as Error).message}`);
    }
  }

  private run(wanted: Wanted<Profile>, source: Source | null, unlock: () => void): null {
    this.now = { worker: this.follow(wanted, source), source, unlock };
    if (source) this.trackOf(source).onended = () => this.lost();
    if (this.teaches) this.tell(this.teaches);
    this.events.problem(null);
    return null;
  }

  private release(source: Source): void {
    this.trackOf(source).onended = null;
    this.shut(source);
  }

  private close(): void {
    const { now } = this;
    this.now = null;
    if (!now) return;
    if (now.source) this.release(now.source);
    // It says the end of what sounds before it goes.
    now.worker.postMessage({ kind: 'stop' });
    setTimeout(() => now.worker.terminate(), LAST_WORDS_MS);
    now.unlock();
  }

  /** Unplugged, or the permission withdrawn. */
  private lost(): void {
    this.close();
    this.events.problem(this.kind.gone);
  }

  /** Devices come, permissions are given again, and browsers put hidden pages to sleep without a word. */
  private watchOver({ deviceId }: Wanted<Profile>): void {
    if (isStandIn(deviceId)) return;
    const again = () => void this.again();
    const check = () => {
      if (this.now?.source) this.events.problem(this.wrongWith(this.now.source));
    };
    const timer = setInterval(check, SILENT_MS / 2);
    const gone = new AbortController();
    navigator.mediaDevices.addEventListener('devicechange', again, { signal: gone.signal });
    document.addEventListener('visibilitychange', check, { signal: gone.signal });
    // Not every browser tells of this permission.
    void navigator.permissions?.query({ name: this.kind.permission as PermissionName }).then((permission) => permission.addEventListener('change', again, { signal: gone.signal }), () => undefined);
    this.unwatch = () => {
      clearInterval(timer);
      gone.abort();
    };
  }

  private async again(): Promise<void> {
    const { wanted } = this;
    if (!wanted || this.now || this.tries) return;
    this.tries = true;
    // Where it is not there yet it is waited for; that it is gone was said.
    await this.open(wanted);
    this.tries = false;
  }
}
