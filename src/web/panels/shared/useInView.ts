import { useEffect, useRef, useState, type RefObject } from 'react';

/** One for all that asks: hundreds of rows are one question a frame. */
let observer: IntersectionObserver | null = null;
const watched = new Map<Element, (inView: boolean) => void>();

function watch(element: Element, tell: (inView: boolean) => void): () => void {
  observer ??= new IntersectionObserver((entries) => {
    for (const { target, isIntersecting } of entries) watched.get(target)?.(isIntersecting);
  });
  watched.set(element, tell);
  observer.observe(element);
  return () => {
    watched.delete(element);
    observer!.unobserve(element);
  };
}

/** Whether an element is in view, so that what moves in it need not exist where nobody sees it. */
export function useInView<T extends Element>(): { ref: RefObject<T | null>; inView: boolean } {
  const ref = useRef<T>(null);
  const [inView, setInView] = useState(false);
  useEffect(() => watch(ref.current!, setInView), []);
  return { ref, inView };
}
