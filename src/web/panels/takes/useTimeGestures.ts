import { useEffect, type RefObject } from 'react';
import type { TimeView } from './timeView';

/** Wheel, one finger along, two fingers that hold the time beneath them; and what is shown stands on the element, in ms. */
export function useTimeGestures(body: RefObject<HTMLElement | null>, view: TimeView): void {
  useEffect(() => {
    const element = body.current!;
    const down = new Map<number, number>();
    const on = new AbortController();
    const listen = <K extends keyof HTMLElementEventMap>(kind: K, does: (event: HTMLElementEventMap[K]) => void) => element.addEventListener(kind, does, { signal: on.signal, passive: false });
    listen('wheel', (event) => {
      if (event.ctrlKey || event.metaKey) {
        event.preventDefault();
        return view.closer(Math.exp(-event.deltaY / 240), event.clientX - leftOf(element));
      }
      const across = event.shiftKey ? event.deltaY : event.deltaX;
      if (across === 0) return;
      event.preventDefault();
      view.along(across);
    });
    listen('pointerdown', (event) => {
      if (event.pointerType !== 'touch') return;
      // The first finger of all: what went up where nobody heard it is not down any more.
      if (event.isPrimary) down.clear();
      down.set(event.pointerId, event.clientX - leftOf(element));
    });
    listen('pointermove', (event) => {
      const wasPx = down.get(event.pointerId);
      if (wasPx === undefined) return;
      const isPx = event.clientX - leftOf(element);
      const stillPx = [...down].find(([id]) => id !== event.pointerId)?.[1];
      if (stillPx === undefined) view.along(wasPx - isPx);
      else view.pull(wasPx, isPx, stillPx);
      down.set(event.pointerId, isPx);
    });
    for (const kind of ['pointerup', 'pointercancel'] as const) listen(kind, (event) => void down.delete(event.pointerId));
    const show = () => {
      element.dataset.fromMs = view.fromMs.toFixed(1);
      element.dataset.toMs = view.toMs.toFixed(1);
    };
    show();
    const end = view.listen(show);
    return () => {
      on.abort();
      end();
    };
  }, [body, view]);
}

/** Where the time begins on the screen: beside the names of the rows. */
const leftOf = (element: HTMLElement) => element.querySelector('canvas')!.getBoundingClientRect().left;
