import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { findEither, whereInWords } from '../../../core/mapping/either';
import { taught } from '../../../core/receivers/taught';
import type { IntroduceHow } from '../../../protocol/live';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';
import { useEdit, useRigNow } from './useRig';
import { useTellNow } from './useTellNow';

/** Mappings that are introduced one after another, from this window. */
interface Running {
  mappings: readonly string[];
  how: IntroduceHow;
  /** From 0. */
  at: number;
}

export interface InTurnActions {
  running: Running | null;
  begin(mappings: readonly string[], how: IntroduceHow): void;
  /** The present one was learned: it is remembered, and the next has its turn. */
  learned(): void;
  /** To another of them, without a word on the present one. */
  turnTo(at: number): void;
  end(): void;
}

const Context = createContext<InTurnActions | null>(null);

export function useInTurnActions(): InTurnActions {
  return useContext(Context)!;
}

/** Introduces mappings one after another, whatever screen is shown meanwhile. A tap on a tablet counts like the button here. */
export function InTurnProvider({ children }: { children: ReactNode }) {
  const live = useLive();
  const tell = useTellNow();
  const edit = useEdit();
  const now = useRigNow();
  const [running, run] = useState<Running | null>(null);
  const actions = useMemo((): InTurnActions => {
    const end = () => {
      run(null);
      live.tell({ kind: 'introduce', mapping: null });
    };
    const turnTo = (to: Running) => {
      const { document: rig } = now();
      // One that was removed meanwhile has no turn.
      const mappings = to.mappings.filter((id) => findEither(rig, id));
      const at = Math.max(0, to.at - to.mappings.slice(0, to.at).filter((id) => !mappings.includes(id)).length);
      const mapping = mappings[at] === undefined ? undefined : findEither(rig, mappings[at]);
      if (!mapping) return end();
      const told = tell({ kind: 'introduce', mapping: mapping.id, how: to.how, inTurn: { at: at + 1, of: mappings.length, words: `${mapping.name}, ${whereInWords(mapping)}` } });
      if (told) run({ ...to, mappings, at });
    };
    return {
      running,
      begin: (mappings, how) => turnTo({ mappings, how, at: 0 }),
      learned() {
        if (!running) return;
        const { document: rig } = now();
        const mapping = findEither(rig, running.mappings[running.at]!);
        if (mapping) edit({ kind: 'change', changes: taught(rig, mapping) });
        turnTo({ ...running, at: running.at + 1 });
      },
      turnTo: (at) => running && turnTo({ ...running, at }),
      end,
    };
  }, [live, tell, edit, now, running]);
  const latest = useRef(actions);
  useEffect(() => {
    latest.current = actions;
  }, [actions]);
  useEffect(() => live.store.introduceNext.listen(HERE, () => latest.current.learned()), [live]);
  // It ended elsewhere: on Stage, in another window, with the hub.
  useEffect(
    () =>
      live.store.introducing.listen(() => {
        if (latest.current.running && live.store.introducing.value === null) run(null);
      }),
    [live],
  );
  return <Context.Provider value={actions}>{children}</Context.Provider>;
}
