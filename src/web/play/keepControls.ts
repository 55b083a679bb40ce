import type { RigControl, RigSurface } from '../../core/rig/document';
import { flatControls } from '../../core/surface/controlKinds';

export const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

/**
 * The new surface, with what did not change as it was, also within a fold-out: a control that is another object is drawn anew and lets go of
 * its finger, and a panel goes back to where it was designed.
 */
export function keepControls(before: RigSurface, after: RigSurface): RigSurface {
  const known = new Map(before.pages.flatMap(({ controls }) => flatControls(controls)).map((control) => [control.id, control]));
  const kept = (controls: RigControl[]): RigControl[] =>
    controls.map((control) => {
      const old = known.get(control.id);
      if (old && same(old, control)) return old;
      if (control.kind !== 'fold') return control;
      return { ...control, controls: kept(control.controls), panel: old?.kind === 'fold' && same(old.panel, control.panel) ? old.panel : control.panel };
    });
  return { ...after, pages: after.pages.map((page) => ({ ...page, controls: kept(page.controls) })) };
}
