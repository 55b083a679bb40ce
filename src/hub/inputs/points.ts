import type { SourceReport } from '../../core/inputs/feed';
import { lightPointSources, pointsOf } from '../../core/inputs/lightPoints';
import { MOST_POINTS, PointTracker, type LightPoint } from '../../core/signal/points';
import type { OscValue } from '../../net/osc/codec';
import type { Player } from '../player';
import { hubTimeMs } from '../time';
import type { Feed, Intake } from './intake';
import { LifeSign } from './lifeSign';

const NUMBERS_PER_POINT = 3;

interface PointsInput {
  feed: Feed;
  tracker: PointTracker;
  count: number;
  lost: 'hold' | 'rest';
  /** Many senders say nothing any more once nothing is in view, and one that ended never will. */
  life: LifeSign;
}

/** The rig's inputs for points of light: each takes one OSC address, whose numbers are x, y, size of each point. */
export class PointsInputs {
  private readonly byAddress = new Map<string, PointsInput>();
  private readonly sources: SourceReport[] = lightPointSources(MOST_POINTS);

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
  ) {}

  rigChanged(): void {
    const wanted = new Map((this.player.rig?.inputs ?? []).flatMap((input) => (input.kind === 'points' ? [[input.address, input] as const] : [])));
    for (const [address, { feed, life }] of this.byAddress) {
      if (wanted.get(address)?.id === feed.whereabouts.input) continue;
      life.stop();
      this.intake.disconnect(feed);
      this.byAddress.delete(address);
    }
    for (const [address, { id, name, lost }] of wanted) {
      const known = this.byAddress.get(address);
      const count = pointsOf(this.player.rig!, id);
      if (known) {
        known.lost = lost;
        if (known.count !== count) Object.assign(known, { count, tracker: new PointTracker(count) });
        continue;
      }
      const feed = this.intake.connect({ kind: 'points', report: address, name }, { connection: id, where: address, input: id });
      const input: PointsInput = { feed, tracker: new PointTracker(count), count, lost, life: new LifeSign(() => this.see(input, [], hubTimeMs())) };
      this.byAddress.set(address, input);
    }
  }

  /** Whether the address is one of points of light; then the picture is taken. */
  take(address: string, values: readonly OscValue[], timeMs: number): boolean {
    const input = this.byAddress.get(address);
    if (!input) return false;
    const points: LightPoint[] = [];
    for (let i = 0; i + NUMBERS_PER_POINT <= values.length; i += NUMBERS_PER_POINT) {
      const [x, y, size] = values.slice(i, i + NUMBERS_PER_POINT);
      if (typeof x === 'number' && typeof y === 'number' && typeof size === 'number') points.push({ x, y, size });
    }
    input.life.heard(timeMs);
    if (points.length > 0) input.life.given();
    this.see(input, points, timeMs);
    return true;
  }

  close(): void {
    for (const { life } of this.byAddress.values()) life.stop();
  }

  /** One picture. */
  private see(input: PointsInput, points: readonly LightPoint[], timeMs: number): void {
    const tracked = input.tracker.see(points, timeMs);
    for (let t = 0; t < input.count; t++) this.show(input, t, tracked[t] ?? null, timeMs);
  }

  private show({ feed, lost }: PointsInput, t: number, point: LightPoint | null, timeMs: number): void {
    const sources = this.sources.slice(t * 4, t * 4 + 4).map((report) => this.intake.source(feed, report));
    const [x, y, size, seen] = sources as [(typeof sources)[0], (typeof sources)[0], (typeof sources)[0], (typeof sources)[0]];
    const wasSeen = seen.value > 0;
    if (point) {
      this.intake.value(x, timeMs, point.x);
      this.intake.value(y, timeMs, point.y);
      this.intake.value(size, timeMs, point.size);
    } else if (wasSeen && lost === 'rest') {
      for (const source of [x, y, size]) this.intake.value(source, timeMs, source.report.rest!);
    }
    if (wasSeen !== (point !== null)) this.intake.value(seen, timeMs, Number(point !== null));
  }
}
