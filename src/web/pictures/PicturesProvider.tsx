'use client';

import { createContext, useContext, useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import { hasNotCome } from '../hasNotCome';
import { liveUrl } from '../live/LiveProvider';
import type { Palette } from '../theme/tokens';
import type { Picture, ToPictures } from './protocol';

type Send = (message: ToPictures, transfer?: Transferable[]) => void;

/** A worker whose scripts did not come is begun again after this. */
const AGAIN_MS = 1000;

const PicturesContext = createContext<Send | null>(null);
let keys = 0;

/** Holds the worker that draws the pictures of this page. */
export function PicturesProvider({ hubPort, children }: { hubPort: number; children: ReactNode }) {
  const [send, setSend] = useState<Send | null>(null);
  useEffect(() => {
    let worker: Worker;
    let again: ReturnType<typeof setTimeout>;
    const end = () => {
      setSend(null);
      worker.terminate();
    };
    const begin = () => {
      const started = (worker = new Worker(new URL('./pictures.worker.ts', import.meta.url)));
      started.onerror = (event) => {
        if (!hasNotCome(event)) return;
        event.preventDefault();
        end();
        again = setTimeout(begin, AGAIN_MS);
      };
      const tell: Send = (message, transfer = []) => started.postMessage(message, transfer);
      tell({ kind: 'line', url: liveUrl(hubPort) });
      setSend(() => tell);
    };
    begin();
    return () => {
      clearTimeout(again);
      end();
    };
  }, [hubPort]);
  return <PicturesContext value={send}>{children}</PicturesContext>;
}

/** An element that a picture fills, as the worker draws it. `picture` is to be the same object while nothing of it changes. */
export function usePicture(picture: Picture, palette: Palette): RefObject<HTMLDivElement | null> {
  const send = useContext(PicturesContext);
  const host = useRef<HTMLDivElement>(null);
  const key = useRef(0);
  useEffect(() => {
    const element = host.current;
    // A browser too old to hand a canvas over shows no picture; figures and words stand beside it.
    if (!send || !element || !('transferControlToOffscreen' in HTMLCanvasElement.prototype)) return;
    key.current = ++keys;
    // Each canvas can be handed over once only, so it is made here and not by React.
    const canvas = document.createElement('canvas');
    element.append(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    const own = key.current;
    send({ kind: 'add', key: own, canvas: offscreen }, [offscreen]);
    const observer = new ResizeObserver(() => send({ kind: 'size', key: own, size: { width: element.clientWidth, height: element.clientHeight, density: window.devicePixelRatio } }));
    observer.observe(element);
    return () => {
      observer.disconnect();
      canvas.remove();
      send({ kind: 'remove', key: own });
    };
  }, [send]);
  useEffect(() => send?.({ kind: 'show', key: key.current, picture, palette }), [send, picture, palette]);
  return host;
}
