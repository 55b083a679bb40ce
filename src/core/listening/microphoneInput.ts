import { voiceEvent, type VoiceEvent } from '../voices/event';
import { HOP_MS } from './audio';
import { LevelFollower } from './level';
import { Listener, type ListenerSettings, type ListenerSink } from './listener';
import { FIRST_SOUND_NOTE, SOUND_MS, soundKey, vowelKey, type MicrophoneStream } from './microphoneSources';

/** Where goes what a microphone says. */
export interface MicrophoneSink {
  values(values: readonly { key: string; value: number }[]): void;
  voice(stream: MicrophoneStream, event: VoiceEvent): void;
  /** A mouth sound before it plays, also one that is unknown or only taught; `onsetMs` in ms of audio. */
  strikes(sound: string | null, strength: number, onsetMs: number): void;
}

/** Values are said every so many hops, the way of a note every so many. */
const SAY_HOPS = 3;
const MOVE_HOPS = 2;
/** A gate at 0 would not be pressed. */
const LEAST_STRENGTH = 0.01;
/** Voices are numbered in 16 bits on the live line. */
const VOICES = 0x10000;

/**
 * A microphone as an input of the rig: what is heard of it, as values by source and as voices of its streams. Live and from a file
 * it is the same; time is that of the audio, so that a busy computer shortens no sound.
 */
export class MicrophoneInput implements ListenerSink {
  readonly listener: Listener;
  /** While a sound is taught it plays nothing. */
  teaching = false;
  private readonly loudness = new LevelFollower(0, 0);
  private hops = 0;
  private strikesSoFar = 0;
  /** Mouth sounds that sound, the oldest first. */
  private readonly struck: { sound: string; voice: number; untilMs: number }[] = [];

  constructor(
    private settings: ListenerSettings,
    private readonly sink: MicrophoneSink,
  ) {
    this.listener = new Listener(settings, this);
  }

  set(settings: ListenerSettings): void {
    this.settings = settings;
    this.listener.set(settings);
  }

  /** How fast its loudness follows, in ms. */
  follow(attackMs: number, releaseMs: number): void {
    Object.assign(this.loudness, { attackMs, releaseMs });
  }

  /** Takes in HOP samples. */
  push(heard: Float32Array): void {
    this.hops++;
    this.listener.push(heard);
    this.loudness.step(this.listener.level.db, HOP_MS);
    while (this.struck[0] && this.struck[0].untilMs <= this.listener.timeMs) this.endStruck(0);
    if (this.hops % SAY_HOPS === 0) this.say();
  }

  /** Ends what sounds. */
  stop(): void {
    this.listener.stop();
    while (this.struck.length > 0) this.endStruck(0);
  }

  begins(voice: number, pitch: number, strike: number): void {
    this.sink.voice('sung', { ...voiceEvent('on'), voice: voice % VOICES, pitch, strike, pressure: strike, slide: this.listener.openFront.open });
  }

  moves(voice: number, pitch: number, pressure: number): void {
    if (this.hops % MOVE_HOPS === 0) this.sink.voice('sung', { ...voiceEvent('move'), voice: voice % VOICES, pitch, pressure, slide: this.listener.openFront.open });
  }

  ends(voice: number): void {
    this.sink.voice('sung', { ...voiceEvent('off'), voice: voice % VOICES });
  }

  strikes(sound: string | null, strength: number, onsetMs: number): void {
    this.sink.strikes(sound, strength, onsetMs);
    if (sound === null || this.teaching) return;
    // Struck again before it was over, it is a stroke of its own.
    const earlier = this.struck.findIndex((one) => one.sound === sound);
    if (earlier >= 0) this.endStruck(earlier);
    const voice = (this.strikesSoFar = (this.strikesSoFar % (VOICES - 1)) + 1);
    const strike = Math.max(LEAST_STRENGTH, strength);
    this.struck.push({ sound, voice, untilMs: this.listener.timeMs + SOUND_MS });
    this.sink.values([{ key: soundKey(sound), value: strike }]);
    this.sink.voice('mouth', { ...voiceEvent('on'), voice, pitch: FIRST_SOUND_NOTE + this.settings.sounds.findIndex(({ name }) => name === sound), strike });
  }

  private endStruck(place: number): void {
    const { sound, voice } = this.struck.splice(place, 1)[0]!;
    this.sink.values([{ key: soundKey(sound), value: 0 }]);
    this.sink.voice('mouth', { ...voiceEvent('off'), voice });
  }

  private say(): void {
    const { openFront, amounts, vowel } = this.listener;
    this.sink.values([
      { key: 'level', value: this.loudness.db },
      { key: 'open', value: openFront.open },
      { key: 'front', value: openFront.front },
      ...(this.settings.vowels?.vowels ?? []).map(({ name }, v) => ({ key: vowelKey(name), value: vowel === null ? 0 : (amounts[v] ?? 0) })),
    ]);
  }
}
