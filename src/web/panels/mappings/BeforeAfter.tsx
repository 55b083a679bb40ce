import { useMemo } from 'react';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { Pictured } from '../shared/Pictured';

interface BeforeAfterProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** The signal as it comes in and the level as it leaves, on one time axis. */
export function BeforeAfter({ mapping, signal }: BeforeAfterProps) {
  const picture = useMemo(() => ({ kind: 'beforeAfter' as const, mapping, signal }), [mapping, signal]);
  return (
    <figure className="before-after">
      <Pictured className="before-after-picture" picture={picture} label="The signal before and the level after shaping, over four seconds" />
      <figcaption>
        <span className="key before">before</span>
        <span className="key after">after</span>
        <span>4 s</span>
      </figcaption>
    </figure>
  );
}
