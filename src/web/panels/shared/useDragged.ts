import { useMemo, useRef, useState } from 'react';

export interface Dragged<T> {
  /** As it is shown. */
  shown: T;
  /** As it is at the moment: a pointer may lift before the last of its way was shown. */
  now: () => T;
  set: (next: T) => void;
}

/** What a pointer is making; one edit once it lifts (docs/decisions/0041). */
export function useDragged<T>(nothing: T): Dragged<T> {
  const [shown, show] = useState(nothing);
  const latest = useRef(nothing);
  const handling = useMemo(
    () => ({
      now: () => latest.current,
      set(next: T) {
        latest.current = next;
        show(() => next);
      },
    }),
    [],
  );
  return { shown, ...handling };
}
