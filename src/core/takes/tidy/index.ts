import type { ScoreMessage } from '../score';
import { bends, drop, join, legato, overlaps, snap, strikes, trim, type Bends, type Drop, type Join, type Legato, type Overlaps, type Snap, type Strikes, type Trim } from './noteSteps';
import { quantise, type Quantise } from './quantise';
import { thin, type Thin } from './thin';

/** One step of tidying, with its amount. */
export type TidyStep = Quantise | Drop | Join | Legato | Overlaps | Snap | Strikes | Thin | Bends | Trim;

/** What of the rig of a take tidying needs. */
export interface TidyContext {
  /** The tempo that grids stand in. */
  bpm: number;
  /** The range of a full bend at an output. */
  bendSemitonesOf(output: string): number;
}

export interface Tidied {
  messages: ScoreMessage[];
  /** By step: what it did, in words. */
  said: string[];
}

/**
 * The messages after all steps, one after another; those given are left as they are. Whatever the steps, every note on has
 * exactly one note off.
 */
export function tidy(messages: readonly ScoreMessage[], steps: readonly TidyStep[], { bpm, bendSemitonesOf }: TidyContext): Tidied {
  const said: string[] = [];
  let after = [...messages];
  for (const step of steps) {
    const before = after;
    if (step.kind === 'thin') {
      const { messages: kept, leftOut, largest, largestCents } = thin(before, step, bendSemitonesOf);
      after = kept;
      said.push(`${leftOut} of ${before.length} messages left out; furthest off: ${Math.round(largest * 100) / 100} steps, bends ${Math.round(largestCents * 10) / 10} cents`);
    } else {
      after = apply(before, step, bpm);
      said.push(inWords(before, after));
    }
  }
  return { messages: after, said };
}

function apply(messages: readonly ScoreMessage[], step: Exclude<TidyStep, Thin>, bpm: number): ScoreMessage[] {
  switch (step.kind) {
    case 'quantise':
      return quantise(messages, step, bpm);
    case 'drop':
      return drop(messages, step);
    case 'join':
      return join(messages, step);
    case 'legato':
      return legato(messages, step);
    case 'overlaps':
      return overlaps(messages);
    case 'snap':
      return snap(messages, step);
    case 'strikes':
      return strikes(messages, step);
    case 'bends':
      return bends(messages, step);
    case 'trim':
      return trim(messages, step);
    default:
      return step satisfies never;
  }
}

function inWords(before: readonly ScoreMessage[], after: readonly ScoreMessage[]): string {
  const gone = before.length - after.length;
  if (gone !== 0) return `${Math.abs(gone)} messages ${gone > 0 ? 'fewer' : 'more'}`;
  const moved = after.filter((message, i) => message.atMs !== before[i]!.atMs || message.bytes.some((byte, at) => byte !== before[i]!.bytes[at])).length;
  return moved === 0 ? 'nothing to do' : `${moved} messages are others`;
}

/** For a take that was sung: what a wobble cut is joined, what is too short goes, the curves are thinned. */
export const SUNG_RECIPE: readonly TidyStep[] = [
  { kind: 'join', gapMs: 120 },
  { kind: 'drop', shorterMs: 70, softer: 1 },
  { kind: 'legato', gapMs: 80 },
  { kind: 'strikes', amount: 0.4 },
  { kind: 'thin', tolerance: 1, bendCents: 5, as: 'steps' },
];
