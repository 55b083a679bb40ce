/** Figures that change more often than this are a blur. */
export const FIGURE_MS = 100;

const changed = new Set<() => void>();
let timer: ReturnType<typeof setTimeout> | null = null;

/**
 * A figure that shows something that moves. All of a page are written together, ten times a second: each time the page has
 * to be laid out anew, whether for one of them or for all.
 */
export function addFigure(write: () => void): { changed(): void; remove(): void } {
  changed.add(write);
  schedule();
  return {
    changed() {
      changed.add(write);
      schedule();
    },
    remove: () => void changed.delete(write),
  };
}

function schedule(): void {
  timer ??= setTimeout(() => {
    timer = null;
    const writing = [...changed];
    changed.clear();
    for (const write of writing) write();
  }, FIGURE_MS);
}
