import { statfsSync } from 'node:fs';

const FULL = new Set(['SQLITE_FULL', 'ENOSPC', 'EDQUOT']);
/** What SQLite says of a side file that it cannot make; with room on the disk it means something else. */
const PERHAPS_FULL = new Set(['SQLITE_IOERR', 'SQLITE_CANTOPEN']);
const HELD = new Set(['SQLITE_BUSY', 'SQLITE_LOCKED']);
/** What the system says of other files and of ports is left out: that is not the database. */
const UNWRITABLE = new Set(['SQLITE_READONLY', 'SQLITE_PERM', 'SQLITE_IOERR', 'SQLITE_CANTOPEN']);
/** With less than this left nothing useful can be written. */
const ROOM_BYTES = 256 * 1024;

/**
 * Why something could not be stored in the database of a folder: its disk is full, another program has the database to itself (a copy is being made of it, it is open in
 * an editor), or it cannot be written to (any more). Null where it was none of these.
 */
export type Trouble = 'full' | 'held' | 'unwritable';

export function troubleOf(error: unknown, folder: string): Trouble | null {
  const codes = codesOf(error);
  const isOneOf = (known: ReadonlySet<string>) => codes.some((code) => known.has(code));
  if (isOneOf(FULL) || (isOneOf(PERHAPS_FULL) && roomLeft(folder) < ROOM_BYTES)) return 'full';
  if (isOneOf(HELD)) return 'held';
  return isOneOf(UNWRITABLE) ? 'unwritable' : null;
}

export function isDiskFull(error: unknown, folder: string): boolean {
  return troubleOf(error, folder) === 'full';
}

/** The code of an error and of those that it was made of, as Sequelize wraps what SQLite says. */
function codesOf(error: unknown): string[] {
  if (typeof error !== 'object' || error === null) return [];
  const { code, message, original, cause } = error as { code?: unknown; message?: unknown; original?: unknown; cause?: unknown };
  const named = typeof code === 'string' ? [code] : typeof message === 'string' ? (/\bSQLITE_[A-Z]+/.exec(message) ?? []) : [];
  return [...named, ...codesOf(original), ...codesOf(cause)];
}

function roomLeft(folder: string): number {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    return Infinity;
  }
}
