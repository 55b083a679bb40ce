import { Engine } from '../src/core/engine/engine';
import { voiceRig } from '../src/core/engine/voices/testVoices';
import { voiceEvent } from '../src/core/voices/event';
import { giveCompilerRoom } from '../src/hub/compilerRoom';
import { allocated } from './allocated';

/** One move of one axis of one voice, in a process of its own: what the compiler makes of it differs from process to process. */
const MOVES = 2_000_000;
const WARM_UP = 3_000_000;
const TURNS = 8;
const ALLOCATION_MOVES = 200_000;
const AXES = ['pitch', 'pressure', 'slide'] as const;

export interface VoiceMoves {
  floorNs: number;
  /** By axis, for one move. */
  ns: number[];
  bytes: number[];
}

giveCompilerRoom();

/** The quickest of several turns, in ns a move. */
function quickest(work: (n: number) => void): number {
  work(WARM_UP);
  let best = Infinity;
  for (let turn = 0; turn < TURNS; turn++) {
    const start = process.hrtime.bigint();
    work(MOVES);
    best = Math.min(best, Number(process.hrtime.bigint() - start));
  }
  return best / MOVES;
}

/** Once the compiler has settled. */
function movedBytes(work: (n: number) => void): number {
  work(WARM_UP);
  return allocated(() => work(ALLOCATION_MOVES)) / ALLOCATION_MOVES;
}

function floorNs(): number {
  const out = new Uint8Array(3);
  let sink = 0;
  const ns = quickest((n) => {
    for (let i = 0; i < n; i++) {
      out[0] = 0xe1;
      out[1] = i & 127;
      out[2] = (i >> 7) & 127;
      sink += out[1]!;
    }
  });
  return sink < 0 ? NaN : ns;
}

function engineMoves(axis: (typeof AXES)[number]): (n: number) => void {
  const shaping = { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 }, curve: { kind: 's', amount: 0.5 } } as const;
  const rig = voiceRig({ pressure: { shaping, message: { kind: 'channelPressure' }, range: [0, 127] }, pitch: { transpose: 0, bends: true, pull: { scale: { kind: 'mode', root: 0, mode: 'major' }, referenceHz: 440, atStart: 1, held: 0.5, bandCents: 60, speedMs: 300, atRelease: 0 } } });
  const engine = new Engine(rig, { midi: () => undefined, osc: () => undefined });
  engine.take({ ...voiceEvent('on'), timeMs: 0, pitch: 60, pressure: 0.5 });
  const event = { ...voiceEvent('move'), timeMs: 0 };
  // A restless finger, made beforehand so that it costs nothing.
  const hand = Float64Array.from({ length: 4096 }, (_, i) => (axis === 'pitch' ? 60 + 2 * Math.sin(i / 37) : 0.5 + 0.4 * Math.sin(i / 37)));
  let at = 0;
  return (n) => {
    for (let i = 0; i < n; i++) {
      event.timeMs = at += 4;
      // Each by its name: a key that is looked up would be timed as well.
      if (axis === 'pitch') event.pitch = hand[i & 4095]!;
      else if (axis === 'pressure') event.pressure = hand[i & 4095]!;
      else event.slide = hand[i & 4095]!;
      engine.take(event);
    }
  };
}

const floor = floorNs();
process.send!({ floorNs: floor, ns: AXES.map((axis) => quickest(engineMoves(axis))), bytes: AXES.map((axis) => movedBytes(engineMoves(axis))) } satisfies VoiceMoves, () => process.exit(0));
