import { HOP } from './audio';
import { LISTENER_SETTINGS, Listener, type ListenerSink } from './listener';
import { teachVowels, type TaughtVowels } from './vowels/taughtVowels';
import { VOWEL_SETTLES_MS } from './vowels/vowelLesson';

/** What is sung in a recording, from when to when. */
export interface VowelLabel {
  fromMs: number;
  toMs: number;
  vowel: string;
}

const NOBODY: ListenerSink = { begins: () => undefined, moves: () => undefined, ends: () => undefined, strikes: () => undefined };

/** Feeds samples to a listener, hop by hop. */
function hear(listener: Listener, samples: Float32Array, each: () => void): void {
  const block = new Float32Array(HOP);
  for (let at = 0; at + HOP <= samples.length; at += HOP) {
    block.set(samples.subarray(at, at + HOP));
    listener.push(block);
    each();
  }
}

/** Vowels taught by a recording and what is sung in it when. */
export function collectVowels(samples: Float32Array, labels: readonly VowelLabel[]): TaughtVowels {
  const examples = new Map<string, Float64Array[]>();
  const listener = new Listener(LISTENER_SETTINGS, NOBODY);
  hear(listener, samples, () => {
    const label = labels.find(({ fromMs, toMs }) => listener.timeMs >= fromMs + VOWEL_SETTLES_MS && listener.timeMs <= toMs);
    const now = label && listener.vowelNow;
    if (!now) return;
    const moments = examples.get(label.vowel) ?? [];
    moments.push(Float64Array.from(now));
    examples.set(label.vowel, moments);
  });
  return teachVowels(examples);
}

/** Examples of one mouth sound: every onset of a recording is one. */
export function collectSound(samples: Float32Array): number[][] {
  const examples: number[][] = [];
  const listener: Listener = new Listener(LISTENER_SETTINGS, { ...NOBODY, strikes: () => void examples.push([...listener.soundNow]) });
  hear(listener, samples, () => undefined);
  return examples;
}
