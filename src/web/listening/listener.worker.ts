import { HOP, Newest, SAMPLE_RATE_HZ } from '../../core/listening/audio';
import { GAP_MS, HopClock, Lateness } from '../../core/listening/inTime';
import { MicrophoneInput } from '../../core/listening/microphoneInput';
import { microphoneSources, STREAM, type MicrophoneStream } from '../../core/listening/microphoneSources';
import { settingsOf, type Profile } from '../../core/listening/profile';
import { VowelLesson } from '../../core/listening/vowels/vowelLesson';
import { HEARD_STAND_INS } from '../../core/standIn/foghorn';
import type { VoiceEvent } from '../../core/voices/event';
import { LiveConnection } from '../live/connection';
import { FeedLine } from '../live/feeds/feedLine';
import { browserLineWorld } from '../live/line';
import type { CapturedBlock, FromListener, ToListener } from './messages';

const DEVICE = 'microphone';
/** The page is told every so many hops. */
const TELL_HOPS = 6;
/** An example of a sound is kept from a little before its onset until its tail has rung out. */
const BEFORE_MS = 15;
const EXAMPLE_MS = 260;
/** A stand-in is heard in steps of about this. */
const EVERY_MS = 5;

const tell = (message: FromListener) => (postMessage as (message: FromListener) => void)(message);
const nowMs = () => performance.timeOrigin + performance.now();

/** Listens to blocks of audio and sends what it hears on a live line of its own, so that a busy page delays nothing. */
class Listening {
  private readonly live: LiveConnection;
  private readonly line: FeedLine;
  private readonly microphone: MicrophoneInput;
  private readonly lateness = new Lateness(Date.now());
  private note = NaN;
  private sung = 0;
  private hops = 0;
  private trace: number[] = [];
  private spentMs = 0;
  private vowelNames: string[] = [];
  /** The vowel, or the name of the sound, that is being taught. */
  private lesson: VowelLesson | null = null;
  private teachesSound: string | null = null;
  /** The newest audio, and the examples whose sound is not over. */
  private readonly newest = new Newest(Math.ceil((EXAMPLE_MS * SAMPLE_RATE_HZ) / 1000));
  private readonly ringing: { example: number[]; overMs: number }[] = [];
  private watch: ReturnType<typeof setTimeout> | undefined;
  private soundNames: string[] = [];
  private told = false;
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor({ hubUrl, report, name, profile, audio }: Extract<ToListener, { kind: 'start' }>) {
    this.live = new LiveConnection(browserLineWorld(hubUrl, nowMs), undefined, nowMs);
    this.line = new FeedLine(this.live);
    this.microphone = new MicrophoneInput(settingsOf(profile), {
      values: (values) => void this.line.send(DEVICE, values, nowMs()),
      voice: (stream, event) => this.play(stream, event),
      strikes: (sound, strength, onsetMs) => this.struck(sound, strength, onsetMs),
    });
    for (const slot of [this.live.state, this.live.store.rig]) slot.listen(() => tell({ kind: 'line', status: this.live.status, stage: this.live.store.rig.value.stage }));
    this.live.start();
    this.describe(report, name, profile);
    if ('standIn' in audio) this.hearStandIn(audio.standIn);
    else audio.onmessage = ({ data }: MessageEvent<CapturedBlock>) => this.hearInTime(data);
  }

  set(report: string, name: string, profile: Profile): void {
    this.microphone.set(settingsOf(profile));
    this.describe(report, name, profile);
  }

  teach(what: 'vowel' | 'sound', name: string): void {
    this.endTeaching();
    if (what === 'vowel') this.lesson = new VowelLesson(name);
    else this.teachesSound = name;
    this.microphone.teaching = what === 'sound';
  }

  endTeaching(): void {
    if (this.lesson) tell({ kind: 'taughtVowel', name: this.lesson.name, features: this.lesson.examples });
    this.lesson = null;
    this.teachesSound = null;
    this.microphone.teaching = false;
  }

  stop(): void {
    clearTimeout(this.watch);
    clearInterval(this.timer);
    this.microphone.stop();
    this.line.close();
    this.live.stop();
  }

  private hearStandIn(id: string): void {
    const standIn = HEARD_STAND_INS.find((one) => one.id === id)?.make();
    if (!standIn) return;
    const block = new Float32Array(HOP);
    const clock = new HopClock(performance.now());
    this.timer = setInterval(() => {
      for (let due = clock.due(performance.now()); due > 0; due--) {
        standIn.fill(block);
        this.hear(block);
      }
    }, EVERY_MS);
  }

  private describe(report: string, name: string, profile: Profile): void {
    this.microphone.follow(profile.attackMs, profile.releaseMs);
    const vowels = settingsOf(profile).vowels?.vowels.map((vowel) => vowel.name) ?? [];
    const sounds = profile.sounds.map((sound) => sound.name);
    if (this.told && vowels.join('\n') === this.vowelNames.join('\n') && sounds.join('\n') === this.soundNames.join('\n')) return;
    // Until the hub has numbered it anew nothing can be said of what sounds.
    this.microphone.stop();
    this.told = true;
    this.vowelNames = vowels;
    this.soundNames = sounds;
    this.line.add(DEVICE, { kind: 'microphone', report, name }, microphoneSources(this.vowelNames, this.soundNames));
  }

  private hearInTime({ samples, takenMs }: CapturedBlock): void {
    if (this.lateness.isHeard(takenMs, Date.now())) this.hear(samples);
    else this.microphone.stop();
  }

  private hear(block: Float32Array): void {
    const beganMs = performance.now();
    const { microphone } = this;
    const { listener } = microphone;
    microphone.push(block);
    this.newest.push(block);
    while (this.ringing[0] && this.ringing[0].overMs <= listener.timeMs) tell({ kind: 'soundOf', example: this.ringing.shift()!.example, samples: this.newest.samples.slice() });
    const { hz } = listener.pitch;
    this.trace.push(hz > 0 ? hz : NaN);
    this.spentMs += performance.now() - beganMs;
    this.hops++;
    if (this.lesson?.hear(listener)) this.endTeaching();
    if (this.hops % TELL_HOPS === 0) this.show();
    // A microphone that goes takes its blocks with it.
    clearTimeout(this.watch);
    this.watch = setTimeout(() => microphone.stop(), GAP_MS);
  }

  private show(): void {
    const { listener } = this.microphone;
    const { pitch, level, openFront, amounts, vowel, vowelsHold, timeMs } = listener;
    tell({
      kind: 'now',
      now: { timeMs, hz: pitch.hz, clarity: pitch.clarity, levelDb: level.db, clips: level.clips, vowels: vowel === null ? [] : [...amounts], vowelsHold, open: openFront.open, front: openFront.front, note: this.note, whyNot: listener.whyNot, trace: Float32Array.from(this.trace), hopMs: this.spentMs / this.trace.length, leftOutMs: this.lateness.leftOutMs },
    });
    this.trace = [];
    this.spentMs = 0;
  }

  private play(stream: MicrophoneStream, event: VoiceEvent): void {
    const { kind, voice, pitch } = event;
    if (stream === 'sung') {
      // Of a chord the sung note comes first.
      if (kind === 'on' && Number.isNaN(this.note)) [this.note, this.sung] = [pitch, voice];
      else if (voice === this.sung) this.note = kind === 'off' ? NaN : pitch;
    }
    this.line.sendVoice(DEVICE, STREAM[stream], event, nowMs());
  }

  private struck(sound: string | null, strength: number, onsetMs: number): void {
    const { listener } = this.microphone;
    const example = [...listener.soundNow];
    if (this.teachesSound !== null) {
      tell({ kind: 'taughtSound', name: this.teachesSound, example });
      this.ringing.push({ example, overMs: onsetMs - BEFORE_MS + EXAMPLE_MS });
    } else tell({ kind: 'struck', sound, strength, pageTimeMs: nowMs() - (listener.timeMs - onsetMs), example });
  }
}

let listening: Listening | null = null;
let identity = { report: '', name: '' };
addEventListener('message', ({ data }: MessageEvent<ToListener>) => {
  switch (data.kind) {
    case 'start':
      listening?.stop();
      identity = data;
      listening = new Listening(data);
      return;
    case 'profile':
      return listening?.set(identity.report, identity.name, data.profile);
    case 'teach':
      return listening?.teach(data.what, data.name);
    case 'endTeaching':
      return listening?.endTeaching();
    case 'stop':
      listening?.stop();
      listening = null;
  }
});
