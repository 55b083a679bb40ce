import type { HandsProfile } from '../../core/hands/profile';
import { HANDS_STAND_IN } from '../../core/standIn/gulls';
import { browserLock } from '../live/devices/browserLock';
import { ownReport } from '../live/devices/ownReport';
import { liveUrl } from '../live/LiveProvider';
import type { FromTracker, HandsFrom, ToTracker } from './messages';

/** Held by the window of a browser that looks: of two, one would be seen twice. */
const LOCK = 'pumice.hands';
const REPORT = 'pumice.hands.report';
/** None for so long, and no pictures come any more. */
const SILENT_MS = 2000;
const LAST_WORDS_MS = 500;
const WIDTH = 640;
const HEIGHT = 480;
const PICTURES_PER_S = 30;

/** Why no camera can be had here, in one sentence; null where it can be asked for. */
export function cameraObstacle(): string | null {
  if (!window.isSecureContext) return 'The browser lends a camera to secure pages only: open Pumice at localhost on its own computer, or by its https address elsewhere.';
  if (!navigator.mediaDevices || !('OffscreenCanvas' in window)) return 'This browser lends no camera to such a page: try another, or a newer one.';
  return null;
}

const REFUSED: Readonly<Record<string, string>> = {
  NotAllowedError: 'The browser was not allowed to look: allow the camera beside the address of this page, then press Start again.',
  NotFoundError: 'There is no camera here: plug one in, then press Start again. A stand-in needs none.',
  OverconstrainedError: 'The camera that was chosen is not here: choose another.',
  NotReadableError: 'Another program holds the camera: close it there, then press Start again.',
};

/** As the id of a camera: a stand-in, or the hand on screen. */
const STAND_IN = 'stand-in ';
export const MOVED = 'moved';
export const standInId = (id: string) => `${STAND_IN}${id}`;

export interface CameraEvents {
  told(message: FromTracker): void;
  /** One sentence on what is wrong, null once it is right again. */
  problem(sentence: string | null): void;
  ended(): void;
}

interface Wanted {
  deviceId: string;
  name: string;
  profile: HandsProfile;
  video: HTMLVideoElement;
}

/** A camera of this browser, looked at in a worker; the page only shows it, and no picture leaves it. */
export class Camera {
  /** What looks now; a stand-in has no stream. */
  private now: { worker: Worker; stream: MediaStream | null; video: HTMLVideoElement; unlock: () => void } | null = null;
  private wanted: Wanted | null = null;
  private unwatch = () => undefined as void;
  private tries = false;
  private opening: Promise<string | null> = Promise.resolve(null);
  private looks = false;
  /** Where the hand on screen is: a worker that comes later is told. */
  private moved: ToTracker | null = null;
  private pictureMs = 0;

  constructor(
    private readonly hubPort: number,
    private readonly modelFolder: string,
    private readonly events: CameraEvents,
  ) {}

  /** From now on, until `stop`. What goes wrong at the first try ends it; later it is tried again by itself. */
  async start(wanted: Wanted): Promise<void> {
    this.stop();
    this.wanted = wanted;
    // One that was begun and stopped may still be asked about by the browser.
    const before = this.opening;
    this.opening = before.then(() => (this.wanted === wanted ? this.open(wanted) : null));
    const refused = await this.opening;
    if (this.wanted !== wanted) return;
    if (refused === null) return this.watchOver(wanted);
    this.stop();
    this.events.problem(refused);
    this.events.ended();
  }

  tell(message: ToTracker): void {
    if (message.kind === 'profile' && this.wanted) this.wanted.profile = message.profile;
    if (message.kind === 'moved') this.moved = message;
    this.now?.worker.postMessage(message);
  }

  stop(): void {
    this.wanted = null;
    this.unwatch();
    this.unwatch = () => undefined;
    this.close();
  }

  /** Null where it looks now, or nobody wants it any more; else why not, in a sentence. */
  private async open(wanted: Wanted): Promise<string | null> {
    const { deviceId, video } = wanted;
    if (deviceId === MOVED) return this.look(wanted, HANDS_STAND_IN, { kind: 'moved' }, null, () => undefined);
    if (deviceId.startsWith(STAND_IN)) return this.look(wanted, HANDS_STAND_IN, { kind: 'standIn', id: deviceId.slice(STAND_IN.length) }, null, () => undefined);
    const obstacle = cameraObstacle();
    if (obstacle) return obstacle;
    const unlock = await browserLock(LOCK);
    if (!unlock) return 'Another window of this browser looks already: stop it there first.';
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ video: { ...(deviceId === '' ? {} : { deviceId: { exact: deviceId } }), width: { ideal: WIDTH }, height: { ideal: HEIGHT }, frameRate: { ideal: PICTURES_PER_S } } });
      // While the browser asked, somebody may have thought better of it.
      if (this.wanted !== wanted) {
        shut(stream);
        unlock();
        return null;
      }
      this.look(wanted, ownReport('hands', REPORT), { kind: 'camera', modelFolder: this.modelFolder }, stream, unlock);
      video.srcObject = stream;
      await video.play();
      this.takePictures(video);
      return null;
    } catch (error) {
      unlock();
      // A page that was left is told nothing.
      if (this.wanted !== wanted) return null;
      this.close();
      return REFUSED[(error as Error).name] ?? `The camera cannot be used: ${(error as Error).message}`;
    }
  }

  private look({ name, profile, video }: Wanted, report: string, from: HandsFrom, stream: MediaStream | null, unlock: () => void): null {
    const worker = new Worker('/hands/tracker.js');
    worker.onmessage = ({ data }: MessageEvent<FromTracker>) => this.hear(worker, data);
    worker.onerror = () => this.hear(worker, { kind: 'failed', sentence: 'What finds the hands could not be loaded: Pumice does not answer, or the browser forbids it. Start again.' });
    worker.postMessage({ kind: 'start', hubUrl: liveUrl(this.hubPort), report, name, profile, from } satisfies ToTracker);
    if (from.kind === 'moved' && this.moved) worker.postMessage(this.moved);
    for (const track of stream?.getVideoTracks() ?? []) track.onended = () => this.lost();
    this.now = { worker, stream, video, unlock };
    this.looks = from.kind === 'camera';
    this.pictureMs = performance.now();
    this.events.problem(null);
    return null;
  }

  private hear(worker: Worker, message: FromTracker): void {
    if (this.now?.worker !== worker) return;
    if (message.kind === 'ready' || message.kind === 'now') this.looks = false;
    if (message.kind === 'failed') {
      this.stop();
      this.events.problem(message.sentence);
      this.events.ended();
    }
    this.events.told(message);
  }

  /** Hands the newest picture on whenever the one before was looked at; what comes meanwhile is only shown. */
  private takePictures(video: HTMLVideoElement): void {
    const { now } = this;
    const taken = (_: number, { captureTime, presentationTime }: VideoFrameCallbackMetadata) => {
      if (this.now !== now || !now) return;
      this.pictureMs = performance.now();
      video.requestVideoFrameCallback(taken);
      if (this.looks) return;
      this.looks = true;
      const takenMs = performance.timeOrigin + (captureTime ?? presentationTime);
      createImageBitmap(video).then(
        (picture) => {
          if (this.now !== now) return picture.close();
          now.worker.postMessage({ kind: 'picture', picture, takenMs } satisfies ToTracker, [picture]);
        },
        () => (this.looks = false),
      );
    };
    video.requestVideoFrameCallback(taken);
  }

  private close(): void {
    const { now } = this;
    this.now = null;
    if (!now) return;
    now.video.srcObject = null;
    if (now.stream) shut(now.stream);
    // It says the end of what sounds before it goes.
    now.worker.postMessage({ kind: 'stop' } satisfies ToTracker);
    setTimeout(() => now.worker.terminate(), LAST_WORDS_MS);
    now.unlock();
  }

  /** Unplugged, or the permission withdrawn. */
  private lost(): void {
    this.close();
    this.events.problem('The camera is gone: plug it in again, or allow it again; looking goes on by itself.');
  }

  /** Devices come, permissions are given again, and browsers give a page that is not in view no pictures. */
  private watchOver({ deviceId }: Wanted): void {
    if (deviceId === MOVED || deviceId.startsWith(STAND_IN)) return;
    const again = () => void this.again();
    const timer = setInterval(() => this.check(), SILENT_MS / 2);
    const gone = new AbortController();
    navigator.mediaDevices.addEventListener('devicechange', again, { signal: gone.signal });
    document.addEventListener('visibilitychange', () => this.check(), { signal: gone.signal });
    // Not every browser tells of this permission.
    void navigator.permissions?.query({ name: 'camera' as PermissionName }).then((permission) => permission.addEventListener('change', again, { signal: gone.signal }), () => undefined);
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

  private check(): void {
    const stream = this.now?.stream;
    if (!stream) return;
    const isSilent = performance.now() - this.pictureMs > SILENT_MS;
    if (document.hidden) this.events.problem('This page is in the background, where browsers give no pictures: hands end until it is in view again. A window of its own beside the others stays in view.');
    else this.events.problem(isSilent ? 'No pictures come from the camera: look whether it is covered by a switch, or held by another program.' : null);
  }
}

function shut(stream: MediaStream): void {
  for (const track of stream.getTracks()) {
    track.onended = null;
    track.stop();
  }
}
