/** A point of light in view, in the camera's own numbers. */
export interface LightPoint {
  x: number;
  y: number;
  size: number;
}

export const MOST_POINTS = 4;

/** A track whose point went this long ago may not take up a point again as its continuation; any new point may. */
const FORGET_MS = 1000;

interface Track {
  point: LightPoint;
  seenMs: number;
  visible: boolean;
}

/**
 * Keeps the identity of up to four points that arrive in any order, swap and vanish: of all ways to share out the points
 * the one with the smallest sum of squared distances to where each was last is taken (nearest continuation). Points beyond
 * four are left out, the smallest first.
 */
export class PointTracker {
  private readonly tracks: (Track | null)[] = Array.from({ length: MOST_POINTS }, () => null);

  /**
   * One picture. Gives for each of the four identities its point, or null where it is not in view now.
   * @param points what was seen; one with a number that is not finite is left out
   */
  see(points: readonly LightPoint[], timeMs: number): (LightPoint | null)[] {
    const seen = points
      .filter(({ x, y, size }) => Number.isFinite(x) && Number.isFinite(y) && Number.isFinite(size))
      .sort((a, b) => b.size - a.size)
      .slice(0, MOST_POINTS);
    const shared = this.share(seen, timeMs);
    return this.tracks.map((track, t) => {
      const point = shared[t] === undefined ? undefined : seen[shared[t]];
      if (point) this.tracks[t] = { point, seenMs: timeMs, visible: true };
      else if (track) track.visible = false;
      return point ?? null;
    });
  }

  /** By track the index of its point. Tries every way: at most 5^4 small sums. */
  private share(points: readonly LightPoint[], timeMs: number): (number | undefined)[] {
    let best: (number | undefined)[] = [];
    let bestCost = Infinity;
    const chosen: (number | undefined)[] = [];
    const used = new Set<number>();
    const attempt = (t: number, cost: number) => {
      if (cost >= bestCost) return;
      if (t === MOST_POINTS) {
        if (used.size < points.length) return;
        bestCost = cost;
        best = [...chosen];
        return;
      }
      for (let p = 0; p < points.length; p++) {
        if (used.has(p)) continue;
        used.add(p);
        chosen[t] = p;
        attempt(t + 1, cost + this.cost(t, points[p]!, timeMs));
        used.delete(p);
      }
      chosen[t] = undefined;
      attempt(t + 1, cost);
    };
    attempt(0, 0);
    return best;
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
