import type { HandsProfile } from '../../core/hands/profile';
import { HANDS_STAND_IN } from '../../core/standIn/gulls';
import { isStandIn, LentFeed, SILENT_MS, standInId, standInOf, type LentFeedEvents, type LentFeedKind } from '../live/feeds/lentFeed';
import { ownReport } from '../live/feeds/ownReport';
import { liveUrl } from '../live/LiveProvider';
import type { FromTracker, HandsFrom, ToTracker } from './messages';

const REPORT = 'pumice.hands.report';
const WIDTH = 640;
const HEIGHT = 480;
const PICTURES_PER_S = 30;

/** As the id of a camera: the hand on screen, a stand-in like the clips. */
export const MOVED = standInId('moved');

const CAMERA: LentFeedKind = {
  lock: 'pumice.hands',
  permission: 'camera',
  taken: 'Another window of this browser looks already: stop it there first.',
  gone: 'The camera is gone: plug it in again, or allow it again; looking goes on by itself.',
  unusable: 'The camera cannot be used',
  refused: {
    NotAllowedError: 'The browser was not allowed to look: allow the camera beside the address of this page, then press Start again.',
    NotFoundError: 'There is no camera here: plug one in, then press Start again. A stand-in needs none.',
    OverconstrainedError: 'The camera that was chosen is not here: choose another.',
    NotReadableError: 'Another program holds the camera: close it there, then press Start again.',
  },
  obstacle() {
    if (!window.isSecureContext) return 'The browser lends a camera to secure pages only: open Pumice at localhost on its own computer, or by its https address elsewhere.';
    if (!navigator.mediaDevices || !('OffscreenCanvas' in window)) return 'This browser lends no camera to such a page: try another, or a newer one.';
    return null;
  },
};

/** A camera of this browser, looked at in a worker; the page only shows it, and no picture leaves it. */
export class Camera extends LentFeed<HandsProfile, ToTracker, FromTracker, MediaStream> {
  /** A picture is looked at, or the model is on its way. */
  private looks = false;
  /** Where the hand on screen is: a worker that comes later is told. */
  private moved: ToTracker | null = null;
  private pictureMs = 0;

  constructor(
    private readonly hubPort: number,
    private readonly modelFolder: string,
    /** Where its picture is shown. */
    private readonly video: HTMLVideoElement,
    events: LentFeedEvents<FromTracker>,
  ) {
    super(events, CAMERA);
  }

  override tell(message: ToTracker): void {
    if (message.kind === 'profile') this.setProfile(message.profile);
    if (message.kind === 'moved') this.moved = message;
    if (message.kind === 'teach') this.teaches = message;
    super.tell(message);
  }

  protected follow({ deviceId, name, profile }: { deviceId: string; name: string; profile: HandsProfile }, stream: MediaStream | null): Worker {
    const worker = new Worker('/hands/tracker.js');
    worker.onmessage = ({ data }: MessageEvent<FromTracker>) => this.hear(worker, data);
    worker.onerror = () => this.hear(worker, { kind: 'failed', sentence: 'What finds the hands could not be loaded: Pumice does not answer, or the browser forbids it. Start again.' });
    const report = isStandIn(deviceId) ? HANDS_STAND_IN : ownReport('hands', REPORT);
    worker.postMessage({ kind: 'start', hubUrl: liveUrl(this.hubPort), report, name, profile, from: this.from(deviceId) } satisfies ToTracker);
    if (deviceId === MOVED && this.moved) worker.postMessage(this.moved);
    this.looks = true;
    this.pictureMs = performance.now();
    if (stream) this.show(worker, stream);
    return worker;
  }

  private from(deviceId: string): HandsFrom {
    if (deviceId === MOVED) return { kind: 'moved' };
    return isStandIn(deviceId) ? { kind: 'standIn', id: standInOf(deviceId) } : { kind: 'camera', modelFolder: this.modelFolder };
  }

  private hear(worker: Worker, message: FromTracker): void {
    if (this.now?.worker !== worker) return;
    if (message.kind === 'ready' || message.kind === 'now') this.looks = false;
    if (message.kind === 'taughtPose') this.teaches = null;
    if (message.kind === 'failed') this.end(message.sentence);
    else this.events.told(message);
  }

  private show(worker: Worker, stream: MediaStream): void {
    this.video.srcObject = stream;
    // Where it does not play no pictures come, and that is said.
    this.video.play().then(
      () => this.takePictures(worker),
      () => undefined,
    );
  }

  /** Hands the newest picture on whenever the one before was looked at; what comes meanwhile is only shown. */
  private takePictures(worker: Worker): void {
    const { video } = this;
    const isOver = () => this.now?.worker !== worker;
    const taken = (_: number, { captureTime, presentationTime }: VideoFrameCallbackMetadata) => {
      if (isOver()) return;
      this.pictureMs = performance.now();
      video.requestVideoFrameCallback(taken);
      if (this.looks) return;
      this.looks = true;
      const takenMs = performance.timeOrigin + (captureTime ?? presentationTime);
      createImageBitmap(video).then(
        (picture) => {
          if (isOver()) return picture.close();
          worker.postMessage({ kind: 'picture', picture, takenMs } satisfies ToTracker, [picture]);
        },
        () => (this.looks = false),
      );
    };
    if (!isOver()) video.requestVideoFrameCallback(taken);
  }

  protected wrongWith(): string | null {
    if (document.hidden) return 'This page is in the background, where browsers give no pictures: hands end until it is in view again. A window of its own beside the others stays in view.';
    return performance.now() - this.pictureMs > SILENT_MS ? 'No pictures come from the camera: look whether it is covered by a switch, or held by another program.' : null;
  }

  protected trackOf(stream: MediaStream): MediaStreamTrack {
    return stream.getVideoTracks()[0]!;
  }

  protected ask(deviceId: string): Promise<MediaStream> {
    return navigator.mediaDevices.getUserMedia({ video: { ...(deviceId === '' ? {} : { deviceId: { exact: deviceId } }), width: { ideal: WIDTH }, height: { ideal: HEIGHT }, frameRate: { ideal: PICTURES_PER_S } } });
  }

  protected shut(stream: MediaStream): void {
    if (this.video.srcObject === stream) this.video.srcObject = null;
    for (const track of stream.getTracks()) track.stop();
  }
}
