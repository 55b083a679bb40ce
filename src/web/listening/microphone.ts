import { HOP, SAMPLE_RATE_HZ } from '../../core/listening/audio';
import type { Profile } from '../../core/listening/profile';
import { hasNotCome } from '../hasNotCome';
import { LentFeed, SILENT_MS, standInOf, type LentFeedEvents, type LentFeedKind } from '../live/feeds/lentFeed';
import { ownReport } from '../live/feeds/ownReport';
import { liveUrl } from '../live/LiveProvider';
import type { FromListener, ToListener } from './messages';

const REPORT = 'pumice.listening.report';
/** That something was left out is said for so long. */
const BUSY_MS = 10_000;

const MICROPHONE: LentFeedKind = {
  lock: 'pumice.listening',
  permission: 'microphone',
  taken: 'Another window of this browser listens already: stop it there first.',
  gone: 'The microphone is gone: plug it in again, or allow it again; listening goes on by itself.',
  unusable: 'The microphone cannot be used',
  refused: {
    NotAllowedError: 'The browser was not allowed to listen: allow the microphone beside the address of this page, then press Listen again.',
    NotFoundError: 'There is no microphone here: plug one in, then press Listen again.',
    OverconstrainedError: 'The microphone that was chosen is not here: choose another.',
    NotReadableError: 'Another program holds the microphone: close it there, then press Listen again.',
  },
  obstacle() {
    if (!window.isSecureContext) return 'The browser lends a microphone to secure pages only: open Pumice at localhost on its own computer, or by its https address elsewhere.';
    if (!navigator.mediaDevices || !('AudioWorkletNode' in window)) return 'This browser lends no microphone: try another, or a newer one.';
    return null;
  },
};

interface Ears {
  stream: MediaStream;
  context: AudioContext;
  capture: AudioWorkletNode;
}

/** A microphone of this browser, listened to in the audio thread and a worker; the page only shows it. */
export class Microphone extends LentFeed<Profile, ToListener, FromListener, Ears> {
  private heardMs = 0;
  /** Of audio, and when it became more last. */
  private leftOutMs = 0;
  private tooBusyMs = -Infinity;

  constructor(
    private readonly hubPort: number,
    events: LentFeedEvents<FromListener>,
  ) {
    super(events, MICROPHONE);
  }

  get delayMs(): number {
    const source = this.now?.source;
    const track = source?.stream.getAudioTracks()[0]?.getSettings() as { latency?: number } | undefined;
    return source ? 1000 * ((track?.latency ?? 0) + HOP / SAMPLE_RATE_HZ) : 0;
  }

  override tell(message: ToListener): void {
    if (message.kind === 'profile') this.setProfile(message.profile);
    if (message.kind === 'teach') this.teaches = message;
    if (message.kind === 'endTeaching') this.teaches = null;
    super.tell(message);
  }

  /** A stand-in sings or drums instead; it is another input than this microphone. */
  protected follow({ deviceId, name, profile }: { deviceId: string; name: string; profile: Profile }, ears: Ears | null): Worker {
    const worker = new Worker(new URL('./listener.worker.ts', import.meta.url));
    worker.onmessage = ({ data }: MessageEvent<FromListener>) => {
      if (data.kind === 'now') this.noteTime(data.now.leftOutMs);
      if (data.kind === 'taughtVowel' && this.teaches?.kind === 'teach' && this.teaches.what === 'vowel') this.teaches = null;
      this.events.told(data);
    };
    worker.onerror = (event) => hasNotCome(event) && this.now?.worker === worker && this.end('What listens could not be loaded: Pumice does not answer. Start again.');
    this.heardMs = performance.now();
    this.leftOutMs = 0;
    const start = { kind: 'start', hubUrl: liveUrl(this.hubPort), name, profile } as const;
    if (!ears) {
      worker.postMessage({ ...start, report: deviceId, audio: { standIn: standInOf(deviceId) } } satisfies ToListener);
      return worker;
    }
    const audio = new MessageChannel();
    ears.capture.port.postMessage(audio.port1, [audio.port1]);
    worker.postMessage({ ...start, report: ownReport('microphone', REPORT), audio: audio.port2 } satisfies ToListener, [audio.port2]);
    return worker;
  }

  protected wrongWith({ context }: Ears): string | null {
    if (context.state !== 'running') void context.resume();
    if (performance.now() - this.tooBusyMs < BUSY_MS) return `This computer is too busy to hear everything: ${(this.leftOutMs / 1000).toFixed(1)} s were left out so far. Close what else it does.`;
    return performance.now() - this.heardMs > SILENT_MS ? 'Nothing comes from the microphone: keep this page in view, and look whether the microphone is on.' : null;
  }

  private noteTime(leftOutMs: number): void {
    this.heardMs = performance.now();
    if (leftOutMs > this.leftOutMs) this.tooBusyMs = this.heardMs;
    this.leftOutMs = leftOutMs;
  }

  protected trackOf({ stream }: Ears): MediaStreamTrack {
    return stream.getAudioTracks()[0]!;
  }

  /** A microphone, and the audio thread that hands it on. */
  protected async ask(deviceId: string): Promise<Ears> {
    // What browsers do for calls takes away what is listened for here.
    const stream = await navigator.mediaDevices.getUserMedia({ audio: { ...(deviceId === '' ? {} : { deviceId: { exact: deviceId } }), echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 } });
    // Whatever rate the microphone has, the browser converts it.
    const context = new AudioContext({ sampleRate: SAMPLE_RATE_HZ, latencyHint: 'interactive' });
    try {
      await context.audioWorklet.addModule(new URL('./capture.worklet.js', import.meta.url).href);
      const capture = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
      context.createMediaStreamSource(stream).connect(capture);
      // Some browsers wait for a loudspeaker before anything is heard, and never say so; what comes of it is looked at later.
      context.resume().catch(() => undefined);
      return { stream, context, capture };
    } catch (error) {
      for (const track of stream.getTracks()) track.stop();
      void context.close();
      throw error;
    }
  }

  protected shut({ stream, context, capture }: Ears): void {
    for (const track of stream.getTracks()) track.stop();
    capture.port.postMessage('stop');
    void context.close();
  }
}
