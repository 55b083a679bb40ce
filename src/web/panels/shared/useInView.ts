import { useEffect, useRef, useState, type RefObject } from 'react';

/** What is so near to be scrolled into view counts as in view: it is there, with a little of its past, when it is seen. */
const NEAR = '400px';

/** One for each part that scrolls: hundreds of rows are one question a frame. */
const observers = new WeakMap<Element | Document, IntersectionObserver>();
const watched = new WeakMap<Element, (inView: boolean) => void>();

function observerOf(scroller: Element | Document): IntersectionObserver {
  const known = observers.get(scroller);
  if (known) return known;
  const made = new IntersectionObserver(
    (entries) => {
      for (const { target, isIntersecting } of entries) watched.get(target)?.(isIntersecting);
    },
    { root: scroller, rootMargin: NEAR },
  );
  observers.set(scroller, made);
  return made;
}

function watch(element: Element, tell: (inView: boolean) => void): () => void {
  const observer = observerOf(element.closest('[data-scroller]') ?? document);
  watched.set(element, tell);
  observer.observe(element);
  return () => observer.unobserve(element);
}

/** Whether an element is in view, or near to it, in the part of the page that scrolls (`data-scroller`, or the page): what moves in it need not exist where nobody sees it. */
export function useInView<T extends Element>(): { ref: RefObject<T | null>; inView: boolean } {
  const ref = useRef<T>(null);
  const [inView, setInView] = useState(false);
  useEffect(() => watch(ref.current!, setInView), []);
  return { ref, inView };
}
