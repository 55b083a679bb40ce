import { useEffect, useRef, type RefObject } from 'react';

/** The value of the last render, for what was begun in an earlier one and goes on. */
export function useLatest<T>(value: T): RefObject<T> {
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
  });
  return latest;
}
