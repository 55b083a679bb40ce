import { useEffect, useMemo, useRef } from 'react';
import type { RigMapping } from '../../../core/rig/document';
import { addFigure } from '../../live/figures';
import { useLive } from '../../live/LiveProvider';
import { Pictured } from './Pictured';
import { leaving, type MessageSpec } from '../../../core/messages';
import styles from './LeavingMeter.module.css';
import shared from './shared.module.css';

/** Levels whose numbers are looked at for how long they get: enough for one decimal, and for four digits of a share. */
const LOOKED_AT = Array.from({ length: 17 }, (_, i) => i / 16);
const lengthOf = (message: MessageSpec): number => Math.max(...LOOKED_AT.map((level) => String(leaving(message, level)).length));

/** What leaves a mapping now, as a bar and in the message's own number. */
export function LeavingMeter({ mapping }: { mapping: RigMapping }) {
  const live = useLive();
  const number = useRef<HTMLSpanElement>(null);
  const { id, message, on } = mapping;
  const picture = useMemo(() => ({ kind: 'meter' as const, mapping }), [mapping]);
  useEffect(() => {
    // Set smaller where the longest would not fit: a number that is cut is a wrong one, and one that changes its size jumps.
    let characters = lengthOf(message);
    const fit = () => number.current?.style.setProperty('--characters', String(characters));
    fit();
    const figure = addFigure(() => {
      const level = live.store.levels.value(id);
      const text = level === undefined ? '–' : String(leaving(message, level));
      const shown = number.current;
      if (!shown || shown.textContent === text) return;
      if (text.length > characters) {
        characters = text.length;
        fit();
      }
      shown.textContent = text;
    });
    const remove = live.store.levels.listen(id, figure.changed);
    return () => {
      figure.remove();
      remove();
    };
  }, [live, id, message]);
  return (
    <div className={styles.leaving} data-leaving data-off={!on}>
      <Pictured className={styles.meter} picture={picture} />
      <span ref={number} className={`${shared.value} ${styles.figure}`} data-value>
        –
      </span>
    </div>
  );
}
