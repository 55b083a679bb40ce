import { SELECT } from '../midi/controllers';
import { encode } from '../midi/encode';
import { BEND_CENTRE, type MidiMessage } from '../midi/message';
import type { Knob, StandIn } from './standIn';

/** A lower zone of all channels, as its members bend by themselves (MPE 1.0). */
const MEMBERS = 15;
const BEND_SEMITONES = 48;
const VOICES = 3;
const LOWEST = 38;
const HIGHEST = 86;
/** A finger that presses less does not touch. */
const TOUCHES = 0.03;
const SLIDE = 74;
/** Chords that its fingers glide between, and how long each is held. */
const CHORDS = [[50, 57, 65], [48, 60, 64], [53, 57, 62], [46, 58, 65]];
const CHORD_S = 4;
const GLIDE_S = 0.7;

/** An expressive surface: three fingers that glide, shake and press, as MPE. It speaks in bytes. */
export const hull: StandIn = {
  id: 'hull',
  name: 'Hull',
  about: 'expressive surface (MPE): three fingers that glide, shake and press',
  feed: { kind: 'midi', report: 'stand-in hull', name: 'Hull, expressive' },
  sources: [],
  knobs: Array.from({ length: VOICES }, (_, i): Knob[] => [
    { key: `pitch ${i + 1}`, name: `Pitch ${i + 1}`, kind: 'continuous', range: [LOWEST, HIGHEST], rest: 50 + 7 * i },
    { key: `pressure ${i + 1}`, name: `Pressure ${i + 1}`, kind: 'continuous', range: [0, 1], rest: 0 },
    { key: `slide ${i + 1}`, name: `Slide ${i + 1}`, kind: 'continuous', range: [0, 1], rest: 0.5 },
  ]).flat(),
  defaults: { byItself: true, noise: 0, drift: 0, rateHz: 100, faults: 0 },
  play(timeS) {
    const chord = Math.floor(timeS / CHORD_S);
    const into = timeS - chord * CHORD_S;
    return Array.from({ length: VOICES }, (_, i) => {
      const from = CHORDS[chord % CHORDS.length]![i]!;
      const to = CHORDS[(chord + 1) % CHORDS.length]![i]!;
      // The lowest finger glides on to the next chord; the others lift and come down anew, one after the other.
      const glide = i === 0 ? Math.max(0, (into - (CHORD_S - GLIDE_S)) / GLIDE_S) : 0;
      const vibrato = 0.25 * Math.min(1, into / 2) * Math.sin(2 * Math.PI * (4.6 + 0.3 * i) * timeS);
      const begun = into - 0.25 * i;
      const held = i === 0 ? 1 : Math.max(0, Math.min(1, begun / 0.4, (CHORD_S - 0.3 - into) / 0.3));
      return [from + (to - from) * glide * glide * (3 - 2 * glide) + vibrato, held * (0.45 + 0.35 * Math.sin(0.8 * timeS + i)), 0.5 + 0.4 * Math.sin(0.5 * timeS + 2 * i)];
    }).flat();
  },
  specimen() {
    const sounding: ({ note: number; bend: number; pressure: number; slide: number } | null)[] = Array.from({ length: VOICES }, () => null);
    const channels = Array.from({ length: VOICES }, (_, i) => 2 + i);
    let next = 2 + VOICES;
    let configured = false;
    return {
      read({ knobs, settings, random }) {
        const messages: MidiMessage[] = [];
        const control = (channel: number, controller: number, value: number) => messages.push({ kind: 'controlChange', channel, controller, value });
        if (!configured) {
          configured = true;
          control(1, SELECT.rpnMsb, 0);
          control(1, SELECT.rpnLsb, 6);
          control(1, SELECT.dataMsb, MEMBERS);
        }
        for (let i = 0; i < VOICES; i++) {
          const [pitch = LOWEST, pressed = 0, slid = 0.5] = knobs.slice(3 * i, 3 * i + 3);
          const [pressure, slide] = [Math.round(127 * pressed), Math.round(127 * slid)];
          const voice = sounding[i];
          if (!voice && pressed > TOUCHES) {
            // Each touch has a member of its own, so that what fades of the one before is not bent.
            channels[i] = next;
            next = next === 1 + MEMBERS ? 2 : next + 1;
            const note = Math.round(pitch);
            const bend = bendFor(pitch - note);
            messages.push({ kind: 'pitchBend', channel: channels[i]!, bend });
            control(channels[i]!, SLIDE, slide);
            messages.push({ kind: 'channelPressure', channel: channels[i]!, pressure });
            messages.push({ kind: 'noteOn', channel: channels[i]!, note, velocity: 72 });
            sounding[i] = { note, bend, pressure, slide };
          } else if (voice && pressed <= TOUCHES) {
            messages.push({ kind: 'noteOff', channel: channels[i]!, note: voice.note, velocity: 48 });
            sounding[i] = null;
          } else if (voice) {
            const bend = bendFor(pitch - voice.note);
            if (bend !== voice.bend) messages.push({ kind: 'pitchBend', channel: channels[i]!, bend });
            if (slide !== voice.slide) control(channels[i]!, SLIDE, slide);
            if (pressure !== voice.pressure) messages.push({ kind: 'channelPressure', channel: channels[i]!, pressure });
            Object.assign(voice, { bend, pressure, slide });
          }
        }
        const bytes = messages.flatMap((message) => [...encode(message)]);
        if (random() < settings.faults) bytes.unshift(0x7f);
        return bytes.length > 0 ? [{ way: 'midi', bytes }] : [];
      },
    };
  },
};

const bendFor = (semitones: number) => Math.max(0, Math.min(16383, Math.round(BEND_CENTRE + (BEND_CENTRE * semitones) / BEND_SEMITONES)));
