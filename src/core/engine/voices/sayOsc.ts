import { HOLDING_PEDALS } from '../../midi/controllers';
import { OSC_PARTS, oscOfVoice } from '../../voices/oscVoices';
import type { Running } from '../running';
import { BY_ENDING, KEEP, VOICE_BASE } from '../sink';
import type { PlannedVoiceMapping } from './planVoices';

/**
 * Says a value of a voice as OSC, below the address of its voice mapping. For voice mappings whose layout is OSC alone.
 * @param v the voice mapping, by number in the plan
 * @param whose the number of the voice, from 1
 * @param address of the value; a newer one may replace an older that still waits
 */
export function sayOsc(r: Running, v: number, part: string, whose: number, value: number, address: number): void {
  const { oscAddress, output } = r.plan.voices[v]!;
  r.writer.osc(output, VOICE_BASE + v, `${oscAddress}/${part}`, oscOfVoice(whose, value), address);
}

export function sayOscOn(r: Running, v: number, voice: number, pitch: number, strike: number): void {
  const { oscAddress, output } = r.plan.voices[v]!;
  r.writer.osc(output, VOICE_BASE + v, `${oscAddress}/${OSC_PARTS.on}`, oscOfVoice(voice, pitch, strike), KEEP, 'begins');
}

export function sayOscOff(r: Running, v: number, voice: number, release: number): void {
  const { oscAddress, output } = r.plan.voices[v]!;
  r.writer.osc(output, VOICE_BASE + v, `${oscAddress}/${OSC_PARTS.off}`, oscOfVoice(voice, release), KEEP, 'ends');
}

/** @param value 0 to 1 */
export function sayOscPedal(r: Running, v: number, controller: number, value: number): void {
  const { oscAddress, output } = r.plan.voices[v]!;
  r.writer.osc(output, VOICE_BASE + v, `${oscAddress}/${OSC_PARTS.pedal}`, oscOfVoice(controller, value), KEEP, value > 0 ? 'begins' : 'ends');
}

/**
 * Whoever hears these voices may still sound what a program before this one began, or hold it by a pedal: no book that outlives a program has
 * that, so it is ended unasked.
 */
export function endOscVoices(r: Running): void {
  for (const { oscAddress, output, together } of r.plan.voices) {
    if (oscAddress === null) continue;
    for (const voice of r.plan.pools[together.pool]!.channels) r.writer.osc(output, BY_ENDING, `${oscAddress}/${OSC_PARTS.off}`, oscOfVoice(voice, 0), KEEP);
    for (const pedal of HOLDING_PEDALS) r.writer.osc(output, BY_ENDING, `${oscAddress}/${OSC_PARTS.pedal}`, oscOfVoice(pedal, 0), KEEP);
  }
}

export const isOsc = ({ oscAddress }: PlannedVoiceMapping): boolean => oscAddress !== null;
