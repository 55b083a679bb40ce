import { HandsInput } from '../../core/hands/handsInput';
import { handSources } from '../../core/hands/handSources';
import type { HandsFrame, SeenHand } from '../../core/hands/landmarks';
import { EXAMPLES_OF_A_POSE, poseFeatures } from '../../core/hands/poses';
import { settingsOf, type HandsProfile } from '../../core/hands/profile';
import { HANDS_STAND_INS, movedHand, STAND_IN_ASPECT } from '../../core/standIn/gulls';
import { LiveConnection } from '../live/connection';
import { FeedLine } from '../live/feeds/feedLine';
import { browserLineWorld } from '../live/line';
import { FinderProblem, HandFinder } from './handFinder';
import type { FromTracker, MovedTo, ToTracker } from './messages';

const DEVICE = 'hands';
/** A stand-in is looked at so often. */
const EVERY_MS = 33;
/** A shape is shown for so long to be taught, after a moment to bring it up. */
const SHOWN_MS = 2000;
const BRING_UP_MS = 500;
/** Who looks at one picture for so long will not be done with it. */
const STUCK_MS = 10_000;
/** It is looked whether hands are lost where no picture came for so long. */
const LOOK_MS = 100;
/** After such a gap the finder is shown nothing first, so that it does not look where hands were. */
const GAP_MS = 1000;
/** How bright a picture is is measured every so many pictures, on so few points. */
const LIGHT_EVERY = 8;
const LIGHT_WIDTH = 32;
const LIGHT_HEIGHT = 24;

const tell = (message: FromTracker) => (postMessage as (message: FromTracker) => void)(message);
const nowMs = () => performance.timeOrigin + performance.now();

/** Looks for hands in pictures and sends what they do on a live line of its own, so that a busy page delays nothing. */
class Tracking {
  private readonly live: LiveConnection;
  private readonly line: FeedLine;
  private readonly input: HandsInput;
  private finder: HandFinder | null = null;
  private poseNames: string[] | null = null;
  private teaches: { name: string; fromMs: number; examples: number[][] } | null = null;
  private readonly timers: ReturnType<typeof setInterval>[] = [];
  private moved: SeenHand | null = null;
  private pictures = 0;
  private light = NaN;
  private lastMs = -Infinity;
  /** Since when a picture is looked at, NaN where none is. */
  private lookingMs = NaN;
  /** How old the newest result was when it was there. */
  private delayMs = 0;
  private isOver = false;

  constructor({ hubUrl, report, name, profile, from }: Extract<ToTracker, { kind: 'start' }>) {
    this.live = new LiveConnection(browserLineWorld(hubUrl, nowMs), undefined, nowMs);
    this.line = new FeedLine(this.live);
    this.input = new HandsInput(settingsOf(profile), (values) => void this.line.send(DEVICE, values, nowMs()));
    for (const slot of [this.live.state, this.live.store.rig]) slot.listen(() => tell({ kind: 'line', status: this.live.status, stage: this.live.store.rig.value.stage }));
    this.live.start();
    this.describe(report, name, profile);
    this.timers.push(setInterval(() => this.wait(), LOOK_MS));
    if (from.kind === 'camera') void this.load(from.modelFolder, profile);
    else this.playStandIn(from.kind === 'standIn' ? from.id : null);
  }

  set(report: string, name: string, profile: HandsProfile): void {
    this.input.set(settingsOf(profile));
    this.describe(report, name, profile);
  }

  teach(name: string): void {
    this.teaches = { name, fromMs: nowMs() + BRING_UP_MS, examples: [] };
  }

  move(to: MovedTo | null): void {
    this.moved = to && movedHand(to);
  }

  /** Looks at a picture; it is closed afterwards. */
  async look(picture: ImageBitmap, takenMs: number): Promise<void> {
    const beganMs = (this.lookingMs = nowMs());
    const aspect = picture.width / picture.height;
    let hands: readonly SeenHand[] = [];
    try {
      if (this.finder) {
        if (takenMs - this.lastMs > GAP_MS) await this.showNothing(picture.width, picture.height);
        if (this.pictures++ % LIGHT_EVERY === 0) this.light = brightness(picture);
        hands = await this.finder.find(picture);
      }
    } catch (error) {
      tell({ kind: 'failed', sentence: `The hand model stopped (${(error as Error).message}): start again.` });
      return this.stop();
    } finally {
      picture.close();
      this.lookingMs = NaN;
    }
    this.lastMs = takenMs;
    if (!this.isOver) this.take({ timeMs: takenMs, aspect, hands }, nowMs() - beganMs);
  }

  stop(): void {
    this.isOver = true;
    for (const timer of this.timers) clearInterval(timer);
    this.input.stop();
    this.line.close();
    this.live.stop();
  }

  /** No picture came for a while. While one is looked at, however slowly, nothing is lost; and silence counts from when the last result was there, not from its picture. */
  private wait(): void {
    if (nowMs() - this.lookingMs < STUCK_MS) return;
    this.input.wait(nowMs() - this.delayMs);
  }

  private take(frame: HandsFrame, lookMs: number): void {
    this.delayMs = nowMs() - frame.timeMs;
    this.input.push(frame);
    const now = this.input.now();
    this.learn(now);
    tell({ kind: 'now', now: { hands: now.map(({ side, hand, gestures, pose }) => ({ side, picture: hand.picture, gestures, pose })), strangers: this.input.strangers, delayMs: this.delayMs, lookMs, light: this.light } });
  }

  private learn(now: ReturnType<HandsInput['now']>): void {
    const { teaches } = this;
    if (!teaches || nowMs() < teaches.fromMs) return;
    for (const { side, hand } of now) teaches.examples.push(poseFeatures(hand.world, side));
    if (nowMs() < teaches.fromMs + SHOWN_MS) return;
    this.teaches = null;
    // So many as are kept, from all of the time.
    const step = Math.max(1, teaches.examples.length / EXAMPLES_OF_A_POSE);
    tell({ kind: 'taughtPose', name: teaches.name, examples: Array.from({ length: Math.min(EXAMPLES_OF_A_POSE, teaches.examples.length) }, (_, i) => teaches.examples[Math.floor(i * step)]!) });
  }

  private async load(folder: string, { model, hands }: HandsProfile): Promise<void> {
    try {
      const finder = await HandFinder.load({ folder, model, hands, onLoading: (share) => tell({ kind: 'loading', share }) });
      if (this.isOver) return;
      this.finder = finder;
      tell({ kind: 'ready' });
    } catch (error) {
      if (!this.isOver) tell({ kind: 'failed', sentence: error instanceof FinderProblem ? error.message : `The hand model could not be loaded: ${(error as Error).message}` });
    }
  }

  private async showNothing(width: number, height: number): Promise<void> {
    const blank = new OffscreenCanvas(width, height);
    blank.getContext('2d')!.fillRect(0, 0, width, height);
    const picture = blank.transferToImageBitmap();
    await this.finder!.find(picture);
    picture.close();
  }

  private playStandIn(id: string | null): void {
    const clip = HANDS_STAND_INS.find((one) => one.id === id);
    const beganMs = nowMs();
    tell({ kind: 'ready' });
    this.timers.push(
      setInterval(() => {
        const timeMs = nowMs();
        const hands = clip ? clip.at(timeMs - beganMs) : this.moved ? [this.moved] : [];
        this.take({ timeMs, aspect: STAND_IN_ASPECT, hands }, 0);
      }, EVERY_MS),
    );
  }

  private describe(report: string, name: string, profile: HandsProfile): void {
    const names = profile.poses.map((pose) => pose.name);
    if (this.poseNames?.join('\n') === names.join('\n')) return;
    // Until the hub has numbered it anew nothing can be said of what hands do.
    if (this.poseNames) this.input.stop();
    this.poseNames = names;
    this.line.add(DEVICE, { kind: 'hands', report, name }, handSources(names));
  }
}

const small = new OffscreenCanvas(LIGHT_WIDTH, LIGHT_HEIGHT).getContext('2d', { willReadFrequently: true })!;

/** Mean luma of a picture, 0 to 1 (weights of Rec. 601). */
function brightness(picture: ImageBitmap): number {
  small.drawImage(picture, 0, 0, LIGHT_WIDTH, LIGHT_HEIGHT);
  const { data } = small.getImageData(0, 0, LIGHT_WIDTH, LIGHT_HEIGHT);
  let sum = 0;
  for (let i = 0; i < data.length; i += 4) sum += 0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!;
  return sum / (255 * LIGHT_WIDTH * LIGHT_HEIGHT);
}

let tracking: Tracking | null = null;
let identity = { report: '', name: '' };
addEventListener('message', ({ data }: MessageEvent<ToTracker>) => {
  switch (data.kind) {
    case 'start':
      tracking?.stop();
      identity = data;
      tracking = new Tracking(data);
      return;
    case 'profile':
      return tracking?.set(identity.report, identity.name, data.profile);
    case 'picture':
      if (tracking) return void tracking.look(data.picture, data.takenMs);
      return data.picture.close();
    case 'moved':
      return tracking?.move(data.to);
    case 'teach':
      return tracking?.teach(data.name);
    case 'stop':
      tracking?.stop();
      tracking = null;
  }
});
