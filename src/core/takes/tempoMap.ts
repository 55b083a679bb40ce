import type { TakeBeginning } from './take';
import { BLIND_VISITOR, LogReader } from './log';

/** From here on the tempo is this, in beats a minute; times from the beginning of the take. */
export interface TempoChange {
  atMs: number;
  bpm: number;
}

/** A clock that is followed says its tempo with every beat: less than this, of the tempo, is no other one. */
const OTHER_SHARE = 0.002;

/** The tempi of a take: of its rig and the edits of it, what was tapped, and the clock that was followed. The first is at its beginning. */
export function tempoMap({ rig, startMs, state }: Pick<TakeBeginning, 'rig' | 'startMs' | 'state'>, pieces: readonly Uint8Array[]): TempoChange[] {
  const { followedBpm = null, tappedBpm = null } = (state?.kept as { transport?: { followedBpm: number | null; tappedBpm: number | null } } | undefined)?.transport ?? {};
  const now = { followed: followedBpm, tapped: tappedBpm, ofRig: rig.tempoBpm };
  const tempo = () => now.followed ?? now.tapped ?? now.ofRig;
  const changes: TempoChange[] = [{ atMs: 0, bpm: tempo() }];
  const heard = (timeMs: number) => {
    const bpm = tempo();
    const last = changes.at(-1)!;
    if (Math.abs(bpm - last.bpm) < OTHER_SHARE * last.bpm) return;
    const atMs = Math.max(0, timeMs - startMs);
    if (atMs === last.atMs) last.bpm = bpm;
    else changes.push({ atMs, bpm });
  };
  const reader = new LogReader(rig);
  for (const piece of pieces) {
    reader.read(piece, {
      ...BLIND_VISITOR,
      rig(timeMs, { tempoBpm }) {
        // A tempo that was tapped holds until the rig says another.
        if (tempoBpm !== now.ofRig) now.tapped = null;
        now.ofRig = tempoBpm;
        heard(timeMs);
      },
      other(event) {
        if (event.kind === 'tempo') now.followed = event.bpm;
        else if (event.kind === 'tapped') now.tapped = event.bpm;
        else return;
        heard(event.timeMs);
      },
    });
  }
  return changes;
}
