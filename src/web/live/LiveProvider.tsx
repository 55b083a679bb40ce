'use client';

import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import { LiveConnection } from './connection';
import { browserLineWorld } from './line';

const LiveContext = createContext<LiveConnection | null>(null);

interface LiveProviderProps {
  hubPort: number;
  /** The surface that this page plays; none for the screens of the bench. */
  surface?: string;
  children: ReactNode;
}

/** Holds the one live line of a page. */
export function LiveProvider({ hubPort, surface, children }: LiveProviderProps) {
  const live = useMemo(() => {
    const { protocol, hostname } = typeof window === 'undefined' ? { protocol: 'http:', hostname: 'localhost' } : window.location;
    const nowMs = () => performance.timeOrigin + performance.now();
    return new LiveConnection(browserLineWorld(`${protocol === 'https:' ? 'wss' : 'ws'}://${hostname}:${hubPort}/live`, nowMs), surface, nowMs);
  }, [hubPort, surface]);
  useEffect(() => {
    live.start();
    return () => live.stop();
  }, [live]);
  return <LiveContext value={live}>{children}</LiveContext>;
}

export function useLive(): LiveConnection {
  const live = useContext(LiveContext);
  if (!live) throw new Error('useLive needs a LiveProvider above it');
  return live;
}
