import type { RigControl, RigSurface } from '../rig/document';

/** The surface with every control, those in fold-outs too, put through `by`; the same object where nothing changed. */
export function withControls(surface: RigSurface, by: (control: RigControl) => RigControl): RigSurface {
  let changed = false;
  const put = (control: RigControl): RigControl => {
    let to = by(control);
    if (to.kind === 'fold') {
      const controls = to.controls.map(put);
      if (controls.some((child, i) => child !== (to as { controls: RigControl[] }).controls[i])) to = { ...to, controls };
    }
    changed ||= to !== control;
    return to;
  };
  const pages = surface.pages.map((page) => ({ ...page, controls: page.controls.map(put) }));
  return changed ? { ...surface, pages } : surface;
}
