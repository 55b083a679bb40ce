import type * as Tone from './tone';
import { INSTRUMENTS, type InstrumentId } from '../../core/instruments/instruments';
import type { PartPlayer } from '../../core/instruments/part';

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

/** Voices of one kind, given to keys one after another. */
class Voices {
  private readonly voices: { voice: Voice; key: number | null }[];
  private next = 0;

  constructor(make: () => Voice, output: Tone.InputNode) {
    this.voices = Array.from({ length: VOICES }, () => ({ voice: make().connect(output), key: null }));
  }

  strike(key: number, frequencyHz: number, strength: number): void {
    const free = this.voices.find((one) => one.key === key) ?? this.voices.find((one) => one.key === null) ?? this.voices[(this.next = (this.next + 1) % VOICES)]!;
    free.key = key;
    free.voice.triggerAttack(frequencyHz, undefined, strength);
  }

  release(key: number): void {
    const known = this.voices.find((one) => one.key === key);
    if (!known) return;
    known.key = null;
    known.voice.triggerRelease();
  }

  tune(key: number, frequencyHz: number): void {
    this.voices.find((one) => one.key === key)?.voice.frequency.rampTo(frequencyHz, SMOOTH_S / 4);
  }

  each(change: (voice: Voice) => void): void {
    for (const { voice } of this.voices) change(voice);
  }

  silence(): void {
    for (const one of this.voices) {
      one.key = null;
      one.voice.triggerRelease();
    }
  }

  /** Ends without ringing on. */
  hush(): void {
    for (const one of this.voices) {
      one.key = null;
      const { envelope } = one.voice;
      const release = envelope.release;
      envelope.release = HUSH_S;
      one.voice.triggerRelease();
      envelope.release = release;
    }
  }

  dispose(): void {
    for (const { voice } of this.voices) voice.dispose();
  }
}

/** From a share of its way to a frequency, evenly in pitch. */
const pitch = (share: number, fromHz: number, toHz: number) => fromHz * (toHz / fromHz) ** share;
const decibels = (share: number, mostDb: number) => (share <= 0 ? -Infinity : mostDb + 30 * Math.log10(share));

function drone(tone: Library, output: Tone.InputNode): Instrument {
  const filter = new tone.Filter(300, 'lowpass').connect(output);
  const level = new tone.Volume(-Infinity).connect(filter);
  const engine = [new tone.Oscillator(46, 'sawtooth').connect(level), new tone.Oscillator(46.4, 'sawtooth').connect(level)];
  const hum = new tone.Oscillator(100, 'triangle');
  const humLevel = new tone.Volume(-Infinity).connect(output);
  hum.connect(humLevel);
  const voices = new Voices(() => new tone.AMSynth({ harmonicity: 0.5, envelope: { attack: 0.4, release: 1.2 }, volume: -12 }), filter);
  for (const oscillator of [...engine, hum]) oscillator.start();
  return playing(voices, [filter, level, ...engine, hum, humLevel], {
    speed(share) {
      level.volume.rampTo(decibels(share, -8), SMOOTH_S);
      engine.forEach((oscillator, i) => oscillator.frequency.rampTo(pitch(share, 34, 92) * (1 + 0.008 * i), SMOOTH_S));
    },
    roughness: (share) => filter.frequency.rampTo(pitch(share, 140, 3200), SMOOTH_S),
    hum: (share) => humLevel.volume.rampTo(decibels(share, -16), SMOOTH_S),
  });
}

function wind(tone: Library, output: Tone.InputNode): Instrument {
  const panner = new tone.Panner(0).connect(output);
  const filter = new tone.Filter({ type: 'bandpass', frequency: 400, Q: 2 }).connect(panner);
  const swell = new tone.Tremolo({ frequency: 0.18, depth: 0, spread: 0 }).connect(filter).start();
  const level = new tone.Volume(-Infinity).connect(swell);
  const noise = new tone.Noise('pink').connect(level).start();
  const sprayLevel = new tone.Volume(-Infinity).connect(panner);
  const sprayFilter = new tone.Filter(4000, 'highpass').connect(sprayLevel);
  const spray = new tone.Noise('white').connect(sprayFilter).start();
  const voices = new Voices(() => new tone.FMSynth({ harmonicity: 7.1, modulationIndex: 30, envelope: { attack: 0.3, release: 0.8 }, volume: -20 }), panner);
  return playing(voices, [panner, filter, swell, level, noise, sprayLevel, sprayFilter, spray], {
    strength: (share) => level.volume.rampTo(decibels(share, 0), SMOOTH_S),
    swell: (share) => swell.depth.rampTo(share, SMOOTH_S),
    direction: (share) => panner.pan.rampTo(2 * share - 1, SMOOTH_S),
    height: (share) => filter.frequency.rampTo(pitch(share, 140, 2600), SMOOTH_S),
    spray: (share) => sprayLevel.volume.rampTo(decibels(share, -14), SMOOTH_S),
  });
}

function bowed(tone: Library, output: Tone.InputNode): Instrument {
  const room = new tone.Reverb({ decay: 3, preDelay: 0.02, wet: 0.3 }).connect(output);
  const level = new tone.Volume(-Infinity).connect(room);
  const plate = new tone.FMOscillator({ frequency: 110, harmonicity: 1.41, modulationIndex: 6, type: 'sine' }).connect(level).start();
  const voices = new Voices(() => new tone.FMSynth({ harmonicity: 1.41, modulationIndex: 6, envelope: { attack: 0.25, decay: 0.1, sustain: 0.9, release: 1.4 }, volume: -14 }), room);
  return playing(voices, [room, level, plate], {
    pressure: (share) => level.volume.rampTo(decibels(share, -10), SMOOTH_S),
    place(share) {
      plate.modulationIndex.rampTo(1 + 14 * share, SMOOTH_S);
      voices.each((voice) => 'modulationIndex' in voice && voice.modulationIndex.rampTo(1 + 14 * share, SMOOTH_S));
    },
    size: (share) => plate.frequency.rampTo(pitch(1 - share, 60, 240), SMOOTH_S),
    depth: (share) => room.wet.rampTo(share, SMOOTH_S),
  });
}

function struck(tone: Library, output: Tone.InputNode): Instrument {
  const level = new tone.Volume(0).connect(output);
  const filter = new tone.Filter(4000, 'lowpass').connect(level);
  const voices = new Voices(() => new tone.FMSynth({ harmonicity: 3.5, modulationIndex: 12, envelope: { attack: 0.002, decay: 1.6, sustain: 0, release: 1.2 }, modulationEnvelope: { attack: 0.002, decay: 0.5, sustain: 0.1, release: 0.4 }, volume: -8 }), filter);
  return playing(voices, [level, filter], {
    ring: (share) => voices.each((voice) => voice.envelope.set({ decay: pitch(share, 0.15, 8), release: pitch(share, 0.1, 6) })),
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
