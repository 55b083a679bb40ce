import { CLOCKS_PER_BEAT } from '../time/clockFollower';
import { wanted, type Running } from './running';

/** After a longer pause the clock goes on from now instead of making up for it. */
const PAUSE_MS = 1000;

/** The MIDI clock that outputs are sent, and the tempo that it has: that of the rig, or of a clock that is followed. */
export class OutgoingClock {
  readonly state = { followedBpm: null as number | null, dueMs: NaN };

  constructor(private readonly r: Running) {}

  get tempoBpm(): number {
    return this.state.followedBpm ?? this.r.plan.rig.tempoBpm;
  }

  /** Sends what is due; `at` is told the time of each before it leaves. */
  tick(at: (timeMs: number) => void): void {
    const { plan, writer, nowMs } = this.r;
    const { state } = this;
    if (plan.clockOutputs.length === 0) return;
    const everyMs = 60_000 / this.tempoBpm / CLOCKS_PER_BEAT;
    if (!(nowMs - state.dueMs < PAUSE_MS)) state.dueMs = nowMs;
    while (state.dueMs <= nowMs) {
      at(state.dueMs);
      for (const output of plan.clockOutputs) writer.clock(output);
      state.dueMs += everyMs;
    }
    wanted(this.r, state.dueMs);
  }
}
