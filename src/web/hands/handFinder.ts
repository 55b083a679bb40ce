import type { SeenHand } from '../../core/hands/landmarks';
import type { Hands, Results } from '@mediapipe/hands';

/** As workers of the old kind have it. */
declare function importScripts(...urls: string[]): void;

/** What must be there before it looks, with their sizes in the words of the progress; the rest is small. */
const ASSETS = 'hands_solution_packed_assets.data';
const CODE = 'hands_solution_simd_wasm_bin.wasm';
const MODELS = { fast: 'hand_landmark_lite.tflite', exact: 'hand_landmark_full.tflite' } as const;

/** A sentence for the performer. */
export class FinderProblem extends Error {}

interface Settings {
  /** Where its files are, with a slash at its end. */
  folder: string;
  model: keyof typeof MODELS;
  hands: 1 | 2;
  /** How much of the files is here, 0 to 1. */
  onLoading: (share: number) => void;
}

/** Finds hands in pictures, in a worker of the old kind. */
export class HandFinder {
  private found: SeenHand[] = [];

  private constructor(private readonly hands: Hands) {
    hands.onResults((results) => {
      this.found = seen(results);
    });
  }

  /** Throws a `FinderProblem`. */
  static async load({ folder, model, hands: maxNumHands, onLoading }: Settings): Promise<HandFinder> {
    if (!mayCompile()) throw new FinderProblem('This browser forbids WebAssembly, which finds the hands: allow it, or use another browser.');
    await fetchAll([ASSETS, CODE, MODELS[model]].map((file) => folder + file), onLoading);
    beLikeAPage();
    try {
      importScripts(`${folder}hands.js`);
      const { Hands: Finder } = globalThis as unknown as { Hands: typeof Hands };
      const finder = new Finder({ locateFile: (file) => folder + file });
      // Without a graphics processor its own way over one takes seconds a picture. Which hand is which is settled elsewhere.
      finder.setOptions({ useCpuInference: true, maxNumHands, modelComplexity: model === 'exact' ? 1 : 0, minDetectionConfidence: 0.5, minTrackingConfidence: 0.5, selfieMode: false } as Parameters<Hands['setOptions']>[0]);
      await finder.initialize();
      return new HandFinder(finder);
    } catch (error) {
      throw new FinderProblem(`The hand model could not be started (${(error as Error).message ?? 'it says no more'}): load the page anew, or use another browser.`);
    }
  }

  /** The hands of a picture. */
  async find(picture: ImageBitmap): Promise<readonly SeenHand[]> {
    this.found = [];
    // A bitmap is drawn like any other picture.
    await this.hands.send({ image: picture as unknown as HTMLCanvasElement });
    return this.found;
  }
}

/** Whether the smallest module that there is can be compiled: a policy forbids it only where it is tried. */
function mayCompile(): boolean {
  try {
    return new WebAssembly.Module(Uint8Array.of(0, 0x61, 0x73, 0x6d, 1, 0, 0, 0)) instanceof WebAssembly.Module;
  } catch {
    return false;
  }
}

function seen({ multiHandLandmarks, multiHandWorldLandmarks, multiHandedness }: Results): SeenHand[] {
  return multiHandLandmarks.map((landmarks, i) => ({
    // It is made for mirrored pictures and takes each hand for the other one.
    side: multiHandedness[i]?.label === 'Left' ? 'right' : 'left',
    picture: points(landmarks),
    world: points(multiHandWorldLandmarks[i] ?? []),
  }));
}

const points = (of: readonly { x: number; y: number; z: number }[]) => Float64Array.from(of.flatMap(({ x, y, z }) => [x, y, z]));

/** Brings files into the cache of the browser, from where they are taken afterwards, and says how much is here. */
async function fetchAll(urls: string[], onLoading: (share: number) => void): Promise<void> {
  const answers = await Promise.all(
    urls.map(async (url) => {
      const answer = await fetch(url).catch(() => null);
      if (!answer) throw new FinderProblem('The hand model does not come: Pumice does not answer. Start again once it is back.');
      if (!answer.ok || !answer.body) throw new FinderProblem(await sentenceOf(answer, url));
      return { body: answer.body, wanted: Number(answer.headers.get('x-pumice-bytes')) };
    }),
  );
  const whole = answers.reduce((sum, { wanted }) => sum + wanted, 0);
  let had = 0;
  await Promise.all(
    answers.map(async ({ body, wanted }) => {
      let own = 0;
      const reader = body.getReader();
      try {
        for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
          own += piece.value.length;
          had += piece.value.length;
          onLoading(Math.min(1, had / whole));
        }
      } catch {
        own = -1;
      }
      if (own !== wanted) throw new FinderProblem('The hand model came cut short: start again, and it is loaded anew.');
    }),
  );
}

async function sentenceOf(answer: Response, url: string): Promise<string> {
  const told = (await answer.json().catch(() => null)) as { problem?: { message?: string } } | null;
  return told?.problem?.message ?? `The hand model is missing ${url.split('/').pop()} (${answer.status}): install Pumice again with npm ci.`;
}

/** The package was made for a page: it asks for a window, and loads its scripts by elements of a document. */
function beLikeAPage(): void {
  const element = () => ({
    setAttribute(this: Record<string, unknown>, name: string, value: unknown) {
      this[name] = value;
    },
    addEventListener(this: Record<string, unknown>, name: string, listener: unknown) {
      this[`on${name}`] = listener;
    },
  });
  const load = (script: { src?: string; onload?: () => void; onerror?: (error: unknown) => void }) => {
    try {
      importScripts(script.src!);
      script.onload?.();
    } catch (error) {
      script.onerror?.(error);
    }
  };
  const body = { appendChild: load };
  Object.assign(globalThis, { window: globalThis, document: { currentScript: null, body, head: body, createElement: (tag: string) => (tag === 'canvas' ? new OffscreenCanvas(1, 1) : element()) } });
}
