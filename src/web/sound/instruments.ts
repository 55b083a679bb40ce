import type * as Tone from './tone';
import { freest, type Turn } from '../../core/instruments/freest';
import { INSTRUMENTS, type InstrumentId } from '../../core/instruments/instruments';
import type { PartPlayer } from '../../core/instruments/part';
import { OnDemand } from './onDemand';

type Library = typeof Tone;

/** Notes at once; of more the oldest gives way. */
const VOICES = 8;
/** Changes are spread over so long, that no step is heard. */
const SMOOTH_S = 0.04;
const HUSH_S = 0.02;

export interface Instrument extends PartPlayer {
  /** Every note is let go of. */
  silence(): void;
  dispose(): void;
}

type Voice = Tone.FMSynth | Tone.Synth | Tone.AMSynth;
type Made = Tone.ToneAudioNode;

interface GivenVoice extends Turn {
  sound: OnDemand<Voice>;
}

/** Voices of one kind, given to keys one after another. */
class Voices {
  private readonly voices: GivenVoice[];

  constructor(
    private readonly context: Tone.BaseContext,
    make: () => Voice,
    output: Tone.InputNode,
  ) {
    this.voices = Array.from({ length: VOICES }, () => ({ sound: new OnDemand(context, () => make().connect(output)), key: null, ringsUntilS: 0, struckAtS: 0 }));
  }

  strike(key: number, frequencyHz: number, strength: number): void {
    const nowS = this.context.now();
    const given = freest(this.voices, key, nowS);
    Object.assign(given, { key, struckAtS: nowS });
    given.sound.wake().triggerAttack(frequencyHz, undefined, strength);
  }

  release(key: number): void {
    const known = this.voices.find((one) => one.key === key);
    if (known) this.letGo(known);
  }

  tune(key: number, frequencyHz: number): void {
    this.voices.find((one) => one.key === key)?.sound.awake?.frequency.rampTo(frequencyHz, SMOOTH_S / 4);
  }

  /** Changes every voice, also one that will be made later. */
  change(parameter: string, change: (voice: Voice) => void): void {
    for (const { sound } of this.voices) sound.change(parameter, change);
  }

  silence(): void {
    for (const one of this.voices) this.letGo(one);
  }

  /** Ends without ringing on. */
  hush(): void {
    for (const one of this.voices) this.letGo(one, HUSH_S);
  }

  dispose(): void {
    for (const { sound } of this.voices) sound.dispose();
  }

  private letGo(one: GivenVoice, releaseS?: number): void {
    one.key = null;
    const voice = one.sound.awake;
    if (!voice) return;
    const { envelope } = voice;
    const { release } = envelope;
    if (releaseS !== undefined) envelope.release = releaseS;
    voice.triggerRelease();
    envelope.release = release;
    const ringsS = voice.toSeconds(releaseS ?? release);
    one.ringsUntilS = this.context.now() + ringsS;
    one.sound.restAfter(ringsS);
  }
}

/** From a share of its way to a frequency, evenly in pitch. */
const pitch = (share: number, fromHz: number, toHz: number) => fromHz * (toHz / fromHz) ** share;
const decibels = (share: number, mostDb: number) => (share <= 0 ? -Infinity : mostDb + 30 * Math.log10(share));

/** What sounds without a note while its level is above 0. */
class Bed<T> {
  private readonly sound: OnDemand<T & { dispose(): void }>;

  /** @param make the parts of it, sounding into each other and out */
  constructor(context: Tone.BaseContext, make: () => T & Record<string, Made>) {
    this.sound = new OnDemand(context, () => {
      const made = make();
      return { ...made, dispose: () => Object.values(made).forEach((part) => part.dispose()) };
    });
  }

  /** The parameter that says how loud it is. */
  level(parameter: string, share: number, change: (of: T) => void): void {
    this.change(parameter, change);
    if (share > 0) this.sound.wake();
    else this.sound.restAfter(SMOOTH_S);
  }

  change(parameter: string, change: (of: T) => void): void {
    this.sound.change(parameter, change);
  }

  dispose(): void {
    this.sound.dispose();
  }
}

function drone(tone: Library, output: Tone.InputNode): Instrument {
  const filter = new tone.Filter(300, 'lowpass').connect(output);
  const { context } = filter;
  const engine = new Bed(context, () => {
    const level = new tone.Volume(-Infinity).connect(filter);
    const [low, high] = [46, 46.4].map((hz) => new tone.Oscillator(hz, 'sawtooth').connect(level).start()) as [Tone.Oscillator, Tone.Oscillator];
    return { level, low, high };
  });
  const hum = new Bed(context, () => {
    const level = new tone.Volume(-Infinity).connect(output);
    return { level, tone: new tone.Oscillator(100, 'triangle').connect(level).start() };
  });
  const voices = new Voices(context, () => new tone.AMSynth({ harmonicity: 0.5, envelope: { attack: 0.4, release: 1.2 }, volume: -12 }), filter);
  return playing(voices, [filter, engine, hum], {
    speed: (share) =>
      engine.level('speed', share, ({ level, low, high }) => {
        level.volume.rampTo(decibels(share, -8), SMOOTH_S);
        low.frequency.rampTo(pitch(share, 34, 92), SMOOTH_S);
        high.frequency.rampTo(pitch(share, 34, 92) * 1.008, SMOOTH_S);
      }),
    roughness: (share) => filter.frequency.rampTo(pitch(share, 140, 3200), SMOOTH_S),
    hum: (share) => hum.level('hum', share, ({ level }) => level.volume.rampTo(decibels(share, -16), SMOOTH_S)),
  });
}

function wind(tone: Library, output: Tone.InputNode): Instrument {
  const panner = new tone.Panner(0).connect(output);
  const { context } = panner;
  const air = new Bed(context, () => {
    const filter = new tone.Filter({ type: 'bandpass', frequency: 400, Q: 2 }).connect(panner);
    const swell = new tone.Tremolo({ frequency: 0.18, depth: 0, spread: 0 }).connect(filter).start();
    const level = new tone.Volume(-Infinity).connect(swell);
    return { filter, swell, level, noise: new tone.Noise('pink').connect(level).start() };
  });
  const spray = new Bed(context, () => {
    const level = new tone.Volume(-Infinity).connect(panner);
    const filter = new tone.Filter(4000, 'highpass').connect(level);
    return { level, filter, noise: new tone.Noise('white').connect(filter).start() };
  });
  const voices = new Voices(context, () => new tone.FMSynth({ harmonicity: 7.1, modulationIndex: 30, envelope: { attack: 0.3, release: 0.8 }, volume: -20 }), panner);
  return playing(voices, [panner, air, spray], {
    strength: (share) => air.level('strength', share, ({ level }) => level.volume.rampTo(decibels(share, 0), SMOOTH_S)),
    swell: (share) => air.change('swell', ({ swell }) => swell.depth.rampTo(share, SMOOTH_S)),
    direction: (share) => panner.pan.rampTo(2 * share - 1, SMOOTH_S),
    height: (share) => air.change('height', ({ filter }) => filter.frequency.rampTo(pitch(share, 140, 2600), SMOOTH_S)),
    spray: (share) => spray.level('spray', share, ({ level }) => level.volume.rampTo(decibels(share, -14), SMOOTH_S)),
  });
}

function bowed(tone: Library, output: Tone.InputNode): Instrument {
  const room = new tone.Reverb({ decay: 3, preDelay: 0.02, wet: 0.3 }).connect(output);
  const { context } = room;
  const bow = new Bed(context, () => {
    const level = new tone.Volume(-Infinity).connect(room);
    return { level, plate: new tone.FMOscillator({ frequency: 110, harmonicity: 1.41, modulationIndex: 6, type: 'sine' }).connect(level).start() };
  });
  const voices = new Voices(context, () => new tone.FMSynth({ harmonicity: 1.41, modulationIndex: 6, envelope: { attack: 0.25, decay: 0.1, sustain: 0.9, release: 1.4 }, volume: -14 }), room);
  return playing(voices, [room, bow], {
    pressure: (share) => bow.level('pressure', share, ({ level }) => level.volume.rampTo(decibels(share, -10), SMOOTH_S)),
    place(share) {
      bow.change('place', ({ plate }) => plate.modulationIndex.rampTo(1 + 14 * share, SMOOTH_S));
      voices.change('place', (voice) => 'modulationIndex' in voice && voice.modulationIndex.rampTo(1 + 14 * share, SMOOTH_S));
    },
    size: (share) => bow.change('size', ({ plate }) => plate.frequency.rampTo(pitch(1 - share, 60, 240), SMOOTH_S)),
    depth: (share) => room.wet.rampTo(share, SMOOTH_S),
  });
}

function struck(tone: Library, output: Tone.InputNode): Instrument {
  const level = new tone.Volume(0).connect(output);
  const filter = new tone.Filter(4000, 'lowpass').connect(level);
  const voices = new Voices(level.context, () => new tone.FMSynth({ harmonicity: 3.5, modulationIndex: 12, envelope: { attack: 0.002, decay: 1.6, sustain: 0, release: 1.2 }, modulationEnvelope: { attack: 0.002, decay: 0.5, sustain: 0.1, release: 0.4 }, volume: -8 }), filter);
  return playing(voices, [level, filter], {
    ring: (share) => voices.change('ring', (voice) => voice.envelope.set({ decay: pitch(share, 0.15, 8), release: pitch(share, 0.1, 6) })),
    brightness: (share) => filter.frequency.rampTo(pitch(share, 500, 12_000), SMOOTH_S),
    nearness: (share) => level.volume.rampTo(decibels(Math.max(share, 0.02), 0), SMOOTH_S),
  });
}

/** What sounds without a note while it is above 0. */
const SOUNDS_BY_ITSELF = ['speed', 'hum', 'strength', 'spray', 'pressure'] as const;

/** Voices and what their parameters move; each begins where its parameter rests. */
function playing(voices: Voices, nodes: readonly { dispose(): unknown }[], moves: Record<string, (share: number) => void>): Instrument {
  return {
    strike: (...note) => voices.strike(...note),
    release: (key) => voices.release(key),
    tune: (key, frequencyHz) => voices.tune(key, frequencyHz),
    set: (parameter, share) => moves[parameter]?.(share),
    silence: () => voices.silence(),
    hush() {
      voices.hush();
      for (const parameter of SOUNDS_BY_ITSELF) moves[parameter]?.(0);
    },
    dispose() {
      voices.dispose();
      for (const node of nodes) node.dispose();
    },
  };
}

const MAKE: Record<InstrumentId, (tone: Library, output: Tone.InputNode) => Instrument> = { drone, wind, bowed, struck };

/** An instrument that sounds through `output`, its parameters at rest. */
export function makeInstrument(tone: Library, id: InstrumentId, output: Tone.InputNode): Instrument {
  const instrument = MAKE[id](tone, output);
  for (const { id: parameter, rest } of INSTRUMENTS[id].parameters) instrument.set(parameter, rest);
  return instrument;
}
