import { statfsSync } from 'node:fs';

const FULL = new Set(['SQLITE_FULL', 'ENOSPC', 'EDQUOT']);
/** What SQLite says of a side file that it cannot make; with room on the disk it means something else. */
const PERHAPS_FULL = new Set(['SQLITE_IOERR', 'SQLITE_CANTOPEN']);
/** With less than this left nothing useful can be written. */
const ROOM_BYTES = 256 * 1024;

/** Whether something failed because the disk of a folder is full. */
export function isDiskFull(error: unknown, folder: string): boolean {
  const codes = codesOf(error);
  return codes.some((code) => FULL.has(code)) || (codes.some((code) => PERHAPS_FULL.has(code)) && roomLeft(folder) < ROOM_BYTES);
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
