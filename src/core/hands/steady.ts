import { oneEuro } from '../shaping/oneEuro';
import { COORDINATES, type SeenHand } from './landmarks';

/** Calm at rest, and by so much quicker for each unit a second: of the picture's width, and of half a metre. */
const MIN_CUTOFF_HZ = 1;
const BETA_PICTURE = 12;
const BETA_WORLD = 30;
const DERIVATIVE_CUTOFF_HZ = 1;
/** After such a gap what was before says nothing of what is now. */
const GAP_MS = 250;

/** The points of one hand made steady, each coordinate by a One Euro filter; used again at every picture. */
export class SteadyHand {
  private readonly picture = new SteadyPoints(BETA_PICTURE);
  private readonly world = new SteadyPoints(BETA_WORLD);
  private lastMs = -Infinity;

  push(hand: SeenHand, timeMs: number): SeenHand {
    const pastMs = timeMs - this.lastMs;
    this.lastMs = timeMs;
    const begins = !(pastMs <= GAP_MS);
    return { side: hand.side, picture: this.picture.push(hand.picture, begins ? NaN : pastMs), world: this.world.push(hand.world, begins ? NaN : pastMs) };
  }
}

class SteadyPoints {
  private readonly state = new Float64Array(2 * COORDINATES);
  private readonly before = new Float64Array(COORDINATES);
  private readonly out = new Float64Array(COORDINATES);

  constructor(private readonly beta: number) {}

  /** NaN as time: begins anew. */
  push(points: ArrayLike<number>, pastMs: number): Float64Array {
    const { state, before, out } = this;
    for (let i = 0; i < COORDINATES; i++) {
      const at = points[i]!;
      // A number that is none, which a model may give, would stay in the filter for ever.
      if (Number.isNaN(pastMs) || Number.isNaN(state[2 * i]!)) {
        state[2 * i] = at;
        state[2 * i + 1] = 0;
      } else oneEuro(state, 2 * i, at, before[i]!, pastMs, MIN_CUTOFF_HZ, this.beta, DERIVATIVE_CUTOFF_HZ);
      before[i] = at;
      out[i] = state[2 * i]!;
    }
    return out;
  }
}
