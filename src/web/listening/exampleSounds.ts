import { createStore, delMany, get, keys, set, type UseStore } from 'idb-keyval';
import { SAMPLE_RATE_HZ } from '../../core/listening/audio';
import type { Profile } from '../../core/listening/profile';

/** The name of an example: what was measured of it. */
const nameOf = (example: readonly number[]) => example.map((feature) => feature.toFixed(2)).join(' ');

/**
 * How the examples of mouth sounds sounded, to be heard again. They stay in the browser that taught them; what tells the sounds apart is
 * in the profile, and needs none of this. A browser that keeps nothing (a private window) has none.
 */
export class ExampleSounds {
  private readonly store: UseStore | null;
  private context: AudioContext | null = null;

  constructor() {
    this.store = 'indexedDB' in globalThis ? createStore('pumice-listening', 'examples') : null;
  }

  async keep(example: readonly number[], samples: Float32Array): Promise<void> {
    if (this.store) await set(nameOf(example), samples, this.store).catch(() => undefined);
  }

  /** Plays an example; false where this browser does not have it. */
  async play(example: readonly number[]): Promise<boolean> {
    const samples = this.store ? await get<Float32Array<ArrayBuffer>>(nameOf(example), this.store).catch(() => undefined) : undefined;
    if (!samples) return false;
    const context = (this.context ??= new AudioContext({ sampleRate: SAMPLE_RATE_HZ }));
    const buffer = context.createBuffer(1, samples.length, SAMPLE_RATE_HZ);
    buffer.copyToChannel(samples, 0);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.start();
    return true;
  }

  /** Forgets what no profile has any more. */
  async tidy(profiles: readonly Profile[]): Promise<void> {
    if (!this.store) return;
    const known = new Set(profiles.flatMap(({ sounds }) => sounds.flatMap(({ examples }) => examples.map(nameOf))));
    await keys<string>(this.store)
      .then((kept) => delMany(kept.filter((name) => !known.has(name)), this.store!))
      .catch(() => undefined);
  }

  close(): void {
    void this.context?.close();
    this.context = null;
  }
}
