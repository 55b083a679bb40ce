import type { SourceReport } from '../inputs/feed';

/** What is called a sound or a vowel in the keys of sources. */
export const soundKey = (name: string) => `sound ${name}`;
export const vowelKey = (name: string) => `vowel ${name}`;

/** What a microphone says as numbers: its loudness, what the mouth does, and of what it was taught how much there is. */
export function microphoneSources(vowels: readonly string[], sounds: readonly string[]): SourceReport[] {
  return [
    { key: 'level', name: 'Loudness', kind: 'continuous', unit: 'dB', range: [-60, 0], group: 'Voice' },
    { key: 'open', name: 'Open vowel', kind: 'continuous', unit: 'unit', range: [0, 1], group: 'Voice' },
    { key: 'front', name: 'Front vowel', kind: 'continuous', unit: 'unit', range: [0, 1], group: 'Voice' },
    ...vowels.map((name): SourceReport => ({ key: vowelKey(name), name: `Vowel ${name}`, kind: 'continuous', unit: 'unit', range: [0, 1], group: 'Vowels' })),
    ...sounds.map((name): SourceReport => ({ key: soundKey(name), name: `Sound ${name}`, kind: 'gate', unit: 'unit', range: [0, 1], group: 'Mouth sounds' })),
  ];
}

/** The keys of a microphone's streams, in the order of its kind. */
export const STREAM = { sung: 0, mouth: 1 } as const;
export type MicrophoneStream = keyof typeof STREAM;
/** The note of the first mouth sound, the others above it: the lowest drum of General MIDI's map. */
export const FIRST_SOUND_NOTE = 36;
/** A mouth sound is over after this. */
export const SOUND_MS = 60;
