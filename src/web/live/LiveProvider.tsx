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
    const nowMs = () => performance.timeOrigin + performance.now();
    return new LiveConnection(browserLineWorld(liveUrl(hubPort), nowMs), surface, nowMs);
  }, [hubPort, surface]);
  useEffect(() => {
    live.start();
    return () => live.stop();
  }, [live]);
  return <LiveContext value={live}>{children}</LiveContext>;
}

/** Where the live line of this page is. */
export function liveUrl(hubPort: number): string {
  const { protocol, hostname } = typeof window === 'undefined' ? { protocol: 'http:', hostname: 'localhost' } : window.location;
  return `${protocol === 'https:' ? 'wss' : 'ws'}://${hostname}:${hubPort}/live`;
}

export function useLive(): LiveConnection {
  const live = useContext(LiveContext);
  if (!live) throw new Error('useLive needs a LiveProvider above it');
  return live;
}
