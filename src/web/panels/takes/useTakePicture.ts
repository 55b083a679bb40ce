import { useCallback, useEffect, useRef, useState } from 'react';
import type { ScoreLane } from '../../../core/takes/lanes';
import type { TidyStep } from '../../../core/takes/tidy';
import type { TakeDetail } from '../../../protocol/takes';
import { hasNotCome } from '../../hasNotCome';
import { logUrl, scoreUrl } from './fetchTakes';
import type { FromTakeWorker, LogEntry, SignalLane, ToTakeWorker } from './takeMessages';

export interface TakePicture {
  /** Null before it was read. */
  lanes: ScoreLane[] | null;
  /** Those of the version that is drawn beneath, null for none. */
  before: ScoreLane[] | null;
  /** The same after the recipe; null where there is none, or it is being worked at. */
  tidied: { lanes: ScoreLane[]; said: string[]; messages: number } | null;
  signals: SignalLane[];
  entries: LogEntry[];
  problem: string | null;
}

const NOTHING: TakePicture = { lanes: null, before: null, tidied: null, signals: [], entries: [], problem: null };

/** Reads a version of a take in a worker, and tidies it there whenever the recipe becomes another. */
export function useTakePicture({ take, rig }: TakeDetail, version: string | undefined, beneath: string | null, recipe: readonly TidyStep[]): TakePicture {
  const [picture, setPicture] = useState(NOTHING);
  const worker = useRef<Worker>(undefined);
  const asked = useRef(0);
  const { id, lengthMs } = take;
  const bendRanges = JSON.stringify(Object.fromEntries(rig.outputs.map(({ id: output, bendRangeSemitones }) => [output, bendRangeSemitones])));
  const tell = useCallback((said: ToTakeWorker) => worker.current?.postMessage(said), []);

  useEffect(() => {
    setPicture(NOTHING);
    if (version === undefined) return;
    const started = new Worker(new URL('./take.worker.ts', import.meta.url));
    worker.current = started;
    started.onmessage = ({ data }: MessageEvent<FromTakeWorker>) => {
      if (data.kind === 'score') setPicture((before) => ({ ...before, lanes: data.lanes }));
      if (data.kind === 'before') setPicture((now) => ({ ...now, before: data.lanes }));
      if (data.kind === 'log') setPicture((before) => ({ ...before, signals: data.signals, entries: data.entries }));
      if (data.kind === 'failed') setPicture((before) => ({ ...before, problem: data.sentence }));
      if (data.kind === 'tidied' && data.asked === asked.current) setPicture((before) => ({ ...before, tidied: data }));
    };
    started.onerror = (event) => hasNotCome(event) && setPicture((before) => ({ ...before, problem: 'This take cannot be shown: what draws it could not be loaded, for Pumice does not answer. Choose it again.' }));
    tell({ kind: 'load', score: scoreUrl(id, version), before: beneath === null ? null : scoreUrl(id, beneath), log: logUrl(id), bendRanges: JSON.parse(bendRanges) as Record<string, number>, lengthMs });
    return () => started.terminate();
  }, [id, version, beneath, lengthMs, bendRanges, tell]);

  const isRead = picture.lanes !== null;
  useEffect(() => {
    asked.current++;
    if (!isRead) return;
    if (recipe.length === 0) setPicture((before) => ({ ...before, tidied: null }));
    else tell({ kind: 'tidy', asked: asked.current, recipe: [...recipe], bpm: rig.tempoBpm });
  }, [recipe, isRead, rig.tempoBpm, tell]);
  return picture;
}
