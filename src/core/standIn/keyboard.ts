import { encode } from '../midi/encode';
import { BEND_CENTRE, type MidiMessage } from '../midi/message';
import type { Knob, StandIn } from './standIn';

const LOWEST = 48;
const KEYS = 25;
const CHANNEL = 1;
/** What it plays by itself: steps of a shanty in D, one a beat of half a second. */
const TUNE = [2, 5, 9, 14, 12, 9, 5, 9, 7, 10, 14, 17, 14, 10, 7, 2];
const BEAT_S = 0.5;

/** A MIDI keyboard of two octaves with a mod wheel of 14 bits, a bend and a swell pedal; it speaks in bytes. */
export const harmonium: StandIn = {
  id: 'harmonium',
  name: 'Harmonium',
  about: 'MIDI keyboard: two octaves, wheel, bend, pedal',
  feed: { kind: 'midi', report: 'stand-in keyboard', name: 'Harmonium' },
  sources: [],
  knobs: [
    { key: 'wheel', name: 'Wheel', kind: 'continuous', range: [0, 1], rest: 0 },
    { key: 'bend', name: 'Bend', kind: 'continuous', range: [-1, 1], rest: 0 },
    { key: 'pedal', name: 'Pedal', kind: 'continuous', range: [0, 1], rest: 0 },
    ...Array.from({ length: KEYS }, (_, i): Knob => ({ key: `key ${LOWEST + i}`, name: `Key ${i + 1}`, kind: 'gate', range: [0, 1], rest: 0 })),
  ],
  defaults: { byItself: true, noise: 0, drift: 0, rateHz: 100, faults: 0 },
  play(timeS) {
    const beat = Math.floor(timeS / BEAT_S);
    const down = timeS / BEAT_S - beat < 0.8 ? TUNE[beat % TUNE.length]! : -1;
    return [0.5 - 0.5 * Math.cos(timeS * 0.8), 0, 0.5 + 0.4 * Math.sin(timeS * 0.5), ...Array.from({ length: KEYS }, (_, i) => (i === down ? 0.8 : 0))];
  },
  specimen() {
    let before: number[] = [];
    return {
      read({ knobs, settings, random }) {
        const [wheel = 0, bend = 0, pedal = 0, ...keys] = knobs;
        const now = [Math.round(wheel * 16383), Math.round(bend * (bend < 0 ? BEND_CENTRE : BEND_CENTRE - 1)) + BEND_CENTRE, Math.round(pedal * 127), ...keys.map((key) => Math.round(key * 127))];
        const changed = (i: number) => now[i] !== before[i];
        const messages: MidiMessage[] = [];
        if (changed(0)) {
          messages.push({ kind: 'controlChange', channel: CHANNEL, controller: 1, value: now[0]! >> 7 });
          messages.push({ kind: 'controlChange', channel: CHANNEL, controller: 33, value: now[0]! & 127 });
        }
        if (changed(1)) messages.push({ kind: 'pitchBend', channel: CHANNEL, bend: now[1]! });
        if (changed(2)) messages.push({ kind: 'controlChange', channel: CHANNEL, controller: 11, value: now[2]! });
        for (let k = 0; k < KEYS; k++) {
          const velocity = now[3 + k]!;
          if ((velocity > 0) === ((before[3 + k] ?? 0) > 0)) continue;
          messages.push(velocity > 0 ? { kind: 'noteOn', channel: CHANNEL, note: LOWEST + k, velocity } : { kind: 'noteOff', channel: CHANNEL, note: LOWEST + k, velocity: 64 });
        }
        before = now;
        const bytes = messages.flatMap((message) => [...encode(message)]);
        // A fault is a stray byte on the line, as a bad plug makes; it stands between messages.
        if (random() < settings.faults) bytes.unshift(0x7f);
        return bytes.length > 0 ? [{ way: 'midi', bytes }] : [];
      },
    };
  },
};
