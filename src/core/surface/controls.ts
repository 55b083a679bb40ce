import type { RigControl, RigDocument, RigSurface } from '../rig/document';
import type { Change } from '../rig/edit';

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

/** What to change so that a scene is gone, from the buttons that recall it too. */
export function removeScene(rig: RigDocument, id: string): Change[] {
  const surfaces = rig.surfaces.flatMap((surface): Change[] => {
    const to = withControls(surface, (control) => (control.kind === 'scene' && control.scene === id ? { ...control, scene: null } : control));
    return to === surface ? [] : [{ list: 'surfaces', id: surface.id, to }];
  });
  return [...surfaces, { list: 'scenes', id, to: null }];
}
