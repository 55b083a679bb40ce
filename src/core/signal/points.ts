import { assign } from './assignment';

/** A point of light in view, in the camera's own numbers. */
export interface LightPoint {
  x: number;
  y: number;
  size: number;
}

/** So many can be told apart; an input has four unless it is made with another number. */
export const MOST_POINTS = 16;
export const USUAL_POINTS = 4;

/** A track whose point went this long ago may not take up a point again as its continuation; any new point may. */
const FORGET_MS = 1000;

interface Track {
  point: LightPoint;
  seenMs: number;
  visible: boolean;
}

/**
 * Keeps the identity of points that arrive in any order, swap and vanish: of all ways to share out the points the one with
 * the smallest sum of squared distances to where each was last is taken (nearest continuation). Points beyond the number that
 * is kept are left out, the smallest first.
 */
export class PointTracker {
  private readonly tracks: (Track | null)[];

  constructor(private readonly most: number = USUAL_POINTS) {
    this.tracks = Array.from({ length: most }, () => null);
  }

  /**
   * One picture. Gives for each of the identities its point, or null where it is not in view now.
   * @param points what was seen; one with a number that is not finite is left out
   */
  see(points: readonly LightPoint[], timeMs: number): (LightPoint | null)[] {
    const seen = points
      .filter(({ x, y, size }) => Number.isFinite(x) && Number.isFinite(y) && Number.isFinite(size))
      .sort((a, b) => b.size - a.size)
      .slice(0, this.most);
    const trackOf = assign(seen.map((point) => this.tracks.map((_, t) => this.cost(t, point, timeMs))));
    return this.tracks.map((track, t) => {
      const point = seen[trackOf.indexOf(t)];
      if (point) this.tracks[t] = { point, seenMs: timeMs, visible: true };
      else if (track) track.visible = false;
      return point ?? null;
    });
  }

  /** What it costs to take a point for the continuation of a track. An unused track costs a little more the later it is. */
  private cost(t: number, { x, y }: LightPoint, timeMs: number): number {
    const track = this.tracks[t];
    // Dearer than any way within a picture of unit size, so that a track in view is continued first.
    if (!track) return 1e6 + t;
    if (!track.visible && timeMs - track.seenMs > FORGET_MS) return 1e5 + t;
    return (x - track.point.x) ** 2 + (y - track.point.y) ** 2;
  }
}
