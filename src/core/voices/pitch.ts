/** The key that 440 Hz belong to at a receiver that is in tune (ISO 16; MIDI 1.0 counts middle C as 60). */
const A4 = { key: 69, hz: 440 } as const;
const SEMITONES = 12;

/** How many semitones above its name a key sounds where A4 has this frequency. */
export function referenceShift(referenceHz: number): number {
  return SEMITONES * Math.log2(referenceHz / A4.hz);
}

/** The pitch in semitones, 69 being 440 Hz, of a frequency. */
export function pitchOfHz(hz: number): number {
  return A4.key + referenceShift(hz);
}

/** The frequency of a pitch in semitones, 69 being 440 Hz. */
export function hzOfPitch(pitch: number): number {
  return A4.hz * 2 ** ((pitch - A4.key) / SEMITONES);
}
