import { useEffect, useRef } from 'react';
import { addFigure } from '../../live/figures';
import { useLive } from '../../live/LiveProvider';

/** How many voices of a voice mapping sound now. */
export function SoundingCount({ id, className }: { id: string; className: string | undefined }) {
  const live = useLive();
  const figure = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const drawn = addFigure(() => {
      const count = live.store.voices.value(id)?.length ?? 0;
      const text = count === 0 ? 'silent' : count === 1 ? '1 voice' : `${count} voices`;
      if (figure.current && figure.current.textContent !== text) figure.current.textContent = text;
    });
    const remove = live.store.voices.listen(id, drawn.changed);
    return () => {
      drawn.remove();
      remove();
    };
  }, [live, id]);
  return (
    <span ref={figure} className={className}>
      silent
    </span>
  );
}
