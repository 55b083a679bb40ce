import type { Recording } from '../../protocol/recording';
import type { Player } from '../player';
import { hubTimeMs } from '../time';
import type { Feed, Intake, Source } from './intake';

/** Samples are handed on this often; each with its own time. */
const STEP_MS = 5;
/** Rest between the end and the next beginning of a loop. */
const GAP_MS = 20;

interface Playing {
  feed: Feed;
  recording: Recording;
  sources: Source[];
  speed: number;
  loop: boolean;
  /** When the sample at `place` was due if all went on from there. */
  startMs: number;
  place: number;
}

/** Plays recordings as the inputs that they were recorded from, at any speed, looped where wanted. */
export class Replays {
  private readonly playing = new Map<string, Playing>();
  private recordings: Readonly<Record<string, Recording>> = {};
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
  ) {}

  setRecordings(recordings: Record<string, Recording>): void {
    this.recordings = recordings;
    this.rigChanged();
  }

  rigChanged(): void {
    const inputs = (this.player.rig?.inputs ?? []).flatMap((input) => (input.kind === 'recording' ? [input] : []));
    for (const [id, { feed, recording }] of this.playing) {
      const wanted = inputs.find((input) => input.id === id);
      if (wanted && this.recordings[wanted.recording] === recording) continue;
      this.intake.disconnect(feed);
      this.playing.delete(id);
    }
    for (const { id, name, recording: wanted, speed, loop } of inputs) {
      const known = this.playing.get(id);
      const recording = this.recordings[wanted];
      if (known) {
        if (known.speed !== speed) this.changeSpeed(known, speed);
        known.loop = loop;
      } else if (recording && recording.timesMs.length > 0) this.playing.set(id, this.begin(id, name, recording, speed, loop));
    }
    if (this.playing.size > 0) this.timer ??= setTimeout(this.step, STEP_MS);
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
  }

  private begin(input: string, name: string, recording: Recording, speed: number, loop: boolean): Playing {
    const feed = this.intake.connect({ kind: 'recording', report: recording.name, name }, { connection: input, where: `recording "${recording.name}"`, input });
    const sources = recording.signals.map((key) => this.intake.source(feed, { key, name: key, kind: 'continuous', unit: 'unit', range: [0, 1] }));
    return { feed, recording, sources, speed, loop, startMs: hubTimeMs(), place: 0 };
  }

  /** The sample that is due now stays due now. */
  private changeSpeed(one: Playing, speed: number): void {
    const atMs = (hubTimeMs() - one.startMs) * one.speed;
    one.speed = speed;
    one.startMs = hubTimeMs() - atMs / speed;
  }

  private readonly step = (): void => {
    this.timer = null;
    const nowMs = hubTimeMs();
    for (const one of this.playing.values()) this.play(one, nowMs);
    if (this.playing.size > 0) this.timer = setTimeout(this.step, STEP_MS);
  };

  private play(one: Playing, nowMs: number): void {
    const { recording, sources, speed } = one;
    const count = recording.timesMs.length;
    const endMs = recording.timesMs[count - 1]! / speed + GAP_MS;
    for (;;) {
      if (one.place >= count) {
        if (!one.loop || nowMs < one.startMs + endMs) return;
        // After a long pause of this computer it begins anew instead of hurrying through what was missed.
        one.startMs = nowMs - one.startMs > 2 * endMs ? nowMs : one.startMs + endMs;
        one.place = 0;
      }
      const dueMs = one.startMs + recording.timesMs[one.place]! / speed;
      if (dueMs > nowMs) return;
      this.intake.value(sources[recording.which[one.place]!]!, dueMs, recording.values[one.place]!);
      one.place++;
    }
  }
}
