import { HandFinder } from '../../../src/web/hands/handFinder';

/** Finds hands in the pictures that a test sends, one after another. */
let finder: HandFinder | null = null;
addEventListener('message', ({ data }: MessageEvent<{ folder: string; model: 'fast' | 'exact'; hands: 1 | 2 } | ImageBitmap>) => {
  void answer(data).then((found) => (postMessage as (message: unknown) => void)(found));
});

async function answer(data: { folder: string; model: 'fast' | 'exact'; hands: 1 | 2 } | ImageBitmap): Promise<unknown> {
  if (data instanceof ImageBitmap) {
    const beganMs = performance.now();
    const hands = await finder!.find(data);
    const lookMs = performance.now() - beganMs;
    data.close();
    return { hands: hands.map(({ side, picture, world }) => ({ side, picture: [...picture], world: [...world] })), lookMs };
  }
  finder = await HandFinder.load({ ...data, onLoading: () => undefined });
  return null;
}
