/** Figures that change more often than this are a blur. */
export const FIGURE_MS = 100;
/** Those that are out of view are there for who looks for them otherwise than with the eyes. */
const UNSEEN_MS = 1000;

/** What was changed and is written with all else of its pace. */
interface Pace {
  everyMs: number;
  changed: Set<() => void>;
  timer: ReturnType<typeof setTimeout> | null;
}

const seen: Pace = { everyMs: FIGURE_MS, changed: new Set(), timer: null };
const unseen: Pace = { everyMs: UNSEEN_MS, changed: new Set(), timer: null };

/**
 * A figure that shows something that moves. All of a page are written together, ten times a second: each time the page has
 * to be laid out anew, whether for one of them or for all.
 * @param inView out of view they are written once a second
 */
export function addFigure(write: () => void, inView = true): { changed(): void; remove(): void } {
  const pace = inView ? seen : unseen;
  const changed = () => {
    pace.changed.add(write);
    schedule(pace);
  };
  changed();
  return { changed, remove: () => void pace.changed.delete(write) };
}

function schedule(pace: Pace): void {
  pace.timer ??= setTimeout(() => {
    pace.timer = null;
    const writing = [...pace.changed];
    pace.changed.clear();
    for (const write of writing) write();
  }, pace.everyMs);
}
