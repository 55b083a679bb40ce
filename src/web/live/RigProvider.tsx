'use client';

import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { fetchRig, postEdit, postStep, type RigAnswer } from './fetchRig';
import { useLive } from './LiveProvider';
import { RigStore } from './rigStore';
import { HERE } from './store';

const RigContext = createContext<RigStore | null>(null);

/** Holds the page's copy of the open rig and keeps it in step with the live line. */
export function RigProvider({ first, children }: { first: RigAnswer; children: ReactNode }) {
  const live = useLive();
  const [store] = useState(
    () =>
      new RigStore(first, Math.random().toString(36).slice(2), {
        fetch: fetchRig,
        postEdit,
        postStep,
        lineIsUp: () => live.status === 'open',
        later: (ms, what) => void setTimeout(what, ms),
      }),
  );
  useEffect(() => {
    const tell = () => store.heardRig(live.store.rig.value.id, live.store.rig.value.revision, live.store.rig.value.stage);
    const ends = [live.store.edited.listen(HERE, (made) => store.heard(made)), live.store.rig.listen(tell)];
    // The hub may have said it before this listened.
    tell();
    return () => ends.forEach((end) => end());
  }, [live, store]);
  return <RigContext value={store}>{children}</RigContext>;
}

export function useRigStore(): RigStore {
  const store = useContext(RigContext);
  if (!store) throw new Error('useRigStore needs a RigProvider above it');
  return store;
}
