import type { RigSurface } from '../rig/document';
import { flatControls } from './controlKinds';

/** Whether every page of a surface can be turned to from every other by tabs of its own, in one step or several. */
export function reachesAllPages({ pages }: Pick<RigSurface, 'pages'>): boolean {
  const known = new Set(pages.map(({ id }) => id));
  const tabs = new Map(pages.map(({ id, controls }) => [id, flatControls(controls).flatMap((control) => (control.kind === 'page' && control.page !== null && known.has(control.page) ? [control.page] : []))]));
  return pages.every(({ id }) => {
    const reached = new Set([id]);
    for (const page of reached) for (const next of tabs.get(page)!) reached.add(next);
    return reached.size === pages.length;
  });
}
