/**
 * Something of one voice: it begins, moves, or ends. Streams go by their index in the plan, voices by a whole number that its
 * stream gives them. What is not said is NaN, so that all voice events are one shape and one object can be used again and again.
 */
export interface VoiceEvent {
  kind: 'on' | 'move' | 'off';
  stream: number;
  voice: number;
  /** Semitones with fraction, 60 = middle C. */
  pitch: number;
  /** 0 to 1, as are all that follow. */
  strike: number;
  pressure: number;
  slide: number;
  release: number;
}

/** What is said of a voice, by name. */
export const VOICE_FIELDS = ['pitch', 'strike', 'pressure', 'slide', 'release'] as const;
export type VoiceField = (typeof VOICE_FIELDS)[number];

/** Which of them an event of a kind can say. */
export const SAYS: Readonly<Record<VoiceEvent['kind'], readonly VoiceField[]>> = {
  on: ['pitch', 'strike', 'pressure', 'slide'],
  move: ['pitch', 'pressure', 'slide'],
  off: ['release'],
};

export function voiceEvent(kind: VoiceEvent['kind'] = 'off'): VoiceEvent {
  return { kind, stream: 0, voice: 0, pitch: NaN, strike: NaN, pressure: NaN, slide: NaN, release: NaN };
}
