import { HOP, SAMPLE_RATE_HZ } from '../../core/listening/audio';
import type { Profile } from '../../core/listening/profile';
import { browserLock } from '../live/devices/browserLock';
import { ownReport } from '../live/devices/ownReport';
import { liveUrl } from '../live/LiveProvider';
import type { FromListener, ToListener } from './messages';

/** Held by the window of a browser that listens: of two, one would be heard twice. */
const LOCK = 'pumice.listening';
const REPORT = 'pumice.listening.report';
/** Blocks come every 3 ms; none for so long, and nobody speaks any more. */
const SILENT_MS = 2000;
const LAST_WORDS_MS = 500;

/** Why no microphone can be had here, in one sentence; null where it can be asked for. */
export function microphoneObstacle(): string | null {
  if (!window.isSecureContext) return 'The browser lends a microphone to secure pages only: open Pumice at localhost on its own computer, or by its https address elsewhere.';
  if (!navigator.mediaDevices || !('AudioWorkletNode' in window)) return 'This browser lends no microphone: try another, or a newer one.';
  return null;
}

const REFUSED: Readonly<Record<string, string>> = {
  NotAllowedError: 'The browser was not allowed to listen: allow the microphone beside the address of this page, then press Listen again.',
  NotFoundError: 'There is no microphone here: plug one in, then press Listen again.',
  OverconstrainedError: 'The microphone that was chosen is not here: choose another.',
  NotReadableError: 'Another program holds the microphone: close it there, then press Listen again.',
};

export interface MicrophoneEvents {
  heard(message: FromListener): void;
  /** One sentence on what is wrong, null once it is right again. */
  problem(sentence: string | null): void;
  ended(): void;
}

interface Ears {
  stream: MediaStream;
  context: AudioContext;
  capture: AudioWorkletNode;
}

interface Wanted {
  deviceId: string;
  name: string;
  profile: Profile;
}

/** As the id of a microphone: a stand-in. */
const STAND_IN = 'stand-in ';
export const standInId = (id: string) => `${STAND_IN}${id}`;

/** A microphone of this browser, listened to in the audio thread and a worker; the page only shows it. */
export class Microphone {
  /** What listens now; a stand-in has no ears. */
  private now: { worker: Worker; ears: Ears | null; unlock: () => void } | null = null;
  private wanted: Wanted | null = null;
  /** What is being taught: a microphone that was lost and is back is told again. */
  private teaches: ToListener | null = null;
  private unwatch = () => undefined as void;
  private tries = false;
  private opening: Promise<string | null> = Promise.resolve(null);
  private heardMs = 0;

  constructor(
    private readonly hubPort: number,
    private readonly events: MicrophoneEvents,
  ) {}

  get delayMs(): number {
    const { ears } = this.now ?? {};
    const track = ears?.stream.getAudioTracks()[0]?.getSettings() as { latency?: number } | undefined;
    return ears ? 1000 * ((track?.latency ?? 0) + HOP / SAMPLE_RATE_HZ) : 0;
  }

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
    this.stop();
    this.events.problem(refused);
    this.events.ended();
  }

  /** Null where it listens now, or nobody wants it any more; else why not, in a sentence. */
  private async open(wanted: Wanted): Promise<string | null> {
    if (wanted.deviceId.startsWith(STAND_IN)) return this.openStandIn(wanted);
    const obstacle = microphoneObstacle();
    if (obstacle) return obstacle;
    const unlock = await browserLock(LOCK);
    if (!unlock) return 'Another window of this browser listens already: stop it there first.';
    try {
      const ears = await openEars(wanted.deviceId);
      // While the browser asked, somebody may have thought better of it.
      if (this.wanted !== wanted) {
        shut(ears);
        unlock();
        return null;
      }
      this.listen(wanted, ears, unlock);
      return null;
    } catch (error) {
      unlock();
      return this.wanted !== wanted ? null : (REFUSED[(error as Error).name] ?? `The microphone cannot be used: ${(error as Error).message}`);
    }
  }

  private listen({ name, profile }: Wanted, ears: Ears, unlock: () => void): void {
    const worker = this.worker();
    const audio = new MessageChannel();
    ears.capture.port.postMessage(audio.port1, [audio.port1]);
    worker.postMessage({ kind: 'start', hubUrl: liveUrl(this.hubPort), report: ownReport('microphone', REPORT), name, profile, audio: audio.port2 } satisfies ToListener, [audio.port2]);
    ears.stream.getAudioTracks()[0]!.onended = () => this.lost();
    if (this.teaches) worker.postMessage(this.teaches);
    this.heardMs = performance.now();
    this.now = { worker, ears, unlock };
    this.events.problem(null);
  }

  /** Somebody that ships with the program sings or drums instead; it is another input than this microphone. */
  private openStandIn({ deviceId, name, profile }: Wanted): null {
    const worker = this.worker();
    worker.postMessage({ kind: 'start', hubUrl: liveUrl(this.hubPort), report: deviceId, name, profile, audio: { standIn: deviceId.slice(STAND_IN.length) } } satisfies ToListener);
    this.now = { worker, ears: null, unlock: () => undefined };
    this.events.problem(null);
    return null;
  }

  private worker(): Worker {
    const worker = new Worker(new URL('./listener.worker.ts', import.meta.url));
    worker.onmessage = ({ data }: MessageEvent<FromListener>) => {
      if (data.kind === 'now') this.heardMs = performance.now();
      this.events.heard(data);
    };
    return worker;
  }

  tell(message: ToListener): void {
    if (message.kind === 'profile' && this.wanted) this.wanted.profile = message.profile;
    if (message.kind === 'teach') this.teaches = message;
    if (message.kind === 'endTeaching') this.teaches = null;
    this.now?.worker.postMessage(message);
  }

  stop(): void {
    this.wanted = null;
    this.teaches = null;
    this.unwatch();
    this.unwatch = () => undefined;
    this.close();
  }

  private close(): void {
    const { now } = this;
    this.now = null;
    if (!now) return;
    if (now.ears) shut(now.ears);
    // It says the end of what sounds before it goes.
    now.worker.postMessage({ kind: 'stop' } satisfies ToListener);
    setTimeout(() => now.worker.terminate(), LAST_WORDS_MS);
    now.unlock();
  }

  /** Unplugged, or the permission withdrawn. */
  private lost(): void {
    this.close();
    this.events.problem('The microphone is gone: plug it in again, or allow it again; listening goes on by itself.');
  }

  /** Devices come, permissions are given again, and browsers put hidden pages to sleep without a word. */
  private watchOver({ deviceId }: Wanted): void {
    if (deviceId.startsWith(STAND_IN)) return;
    const again = () => void this.again();
    const timer = setInterval(() => this.check(), SILENT_MS / 2);
    const gone = new AbortController();
    navigator.mediaDevices.addEventListener('devicechange', again, { signal: gone.signal });
    // Not every browser tells of this permission.
    void navigator.permissions?.query({ name: 'microphone' as PermissionName }).then((permission) => permission.addEventListener('change', again, { signal: gone.signal }), () => undefined);
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
    const ears = this.now?.ears;
    if (!ears) return;
    if (ears.context.state !== 'running') void ears.context.resume();
    const isSilent = performance.now() - this.heardMs > SILENT_MS;
    this.events.problem(isSilent ? 'Nothing comes from the microphone: keep this page in view, and look whether the microphone is on.' : null);
  }
}

/** A microphone, and the audio thread that hands it on. Throws what the browser throws. */
async function openEars(deviceId: string): Promise<Ears> {
  // What browsers do for calls takes away what is listened for here.
  const stream = await navigator.mediaDevices.getUserMedia({ audio: { ...(deviceId === '' ? {} : { deviceId: { exact: deviceId } }), echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 } });
  // Whatever rate the microphone has, the browser converts it.
  const context = new AudioContext({ sampleRate: SAMPLE_RATE_HZ, latencyHint: 'interactive' });
  try {
    await context.audioWorklet.addModule(new URL('./capture.worklet.js', import.meta.url).href);
    const capture = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
    context.createMediaStreamSource(stream).connect(capture);
    await context.resume();
    return { stream, context, capture };
  } catch (error) {
    for (const track of stream.getTracks()) track.stop();
    void context.close();
    throw error;
  }
}

function shut({ stream, context, capture }: Ears): void {
  for (const track of stream.getTracks()) {
    track.onended = null;
    track.stop();
  }
  capture.port.postMessage('stop');
  void context.close();
}
