import type { OscSent } from '../messages/osc';

/**
 * What leaves of voices as OSC, each below the address of the layout and with the number of the voice, 1 and on, first:
 *
 * - `/on` voice (i), pitch in semitones (f), strike 0 to 1 (f)
 * - `/pitch` voice (i), pitch in semitones (f)
 * - `/off` voice (i), release 0 to 1 (f)
 * - `/pedal` controller (i), value 0 to 1 (f)
 * - an axis under a name of its own: voice (i), value (f)
 */
export const OSC_PARTS = { on: 'on', pitch: 'pitch', off: 'off', pedal: 'pedal' } as const;

/** What an axis may be called: none of the words that a voice itself is said by. */
export const isFreePart = (part: string): boolean => !(Object.values(OSC_PARTS) as string[]).includes(part);

const whole = (value: number): OscSent => ({ type: 'i', value });
const fraction = (value: number): OscSent => ({ type: 'f', value });

/** The arguments of a message of voices: whose it is as a whole number, and its values. */
export const oscOfVoice = (whose: number, ...values: number[]): OscSent[] => [whole(whose), ...values.map(fraction)];

/** Something that a message of voices begins or ends, and what will end it: null where that has happened. */
export interface HeldByOsc {
  /** The same of what begins and what ends. */
  held: string;
  end: { path: string; args: OscSent[] } | null;
}

/** What a message of voices leaves held: a voice, or a pedal that is down. Null where it only moves something. */
export function heldByOsc(path: string, whose: number, value: number): HeldByOsc | null {
  const cut = path.lastIndexOf('/');
  const base = path.slice(0, cut);
  switch (path.slice(cut + 1)) {
    case OSC_PARTS.on:
    case OSC_PARTS.off: {
      const end = endOf(path, oscOfVoice(whose));
      return { held: `${end.path} ${whose}`, end: path === end.path ? null : end };
    }
    case OSC_PARTS.pedal:
      return { held: `${base}/${OSC_PARTS.pedal} ${whose}`, end: value > 0 ? { path, args: oscOfVoice(whose, 0) } : null };
    default:
      return null;
  }
}

/** Of what is held: whether it is a pedal, and sounds nothing itself. */
export const isHeldPedal = (held: string): boolean => held.slice(0, held.lastIndexOf(' ')).endsWith(`/${OSC_PARTS.pedal}`);

/** What ends a voice that a message began: its path, and its arguments. */
function endOf(path: string, args: readonly OscSent[]): { path: string; args: OscSent[] } {
  return { path: `${path.slice(0, path.lastIndexOf('/'))}/${OSC_PARTS.off}`, args: oscOfVoice(Number(args[0]!.value), 0) };
}
