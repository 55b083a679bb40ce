import { join } from 'node:path';
import sqlite3 from 'sqlite3';

/** One that is being stopped has so long to let go of its folder. */
const PATIENCE_MS = 2000;

/** Held as long as the process lives. */
let lock: sqlite3.Database | null = null;

/**
 * Takes a data folder for this process alone; false where another Pumice has it. Two would each write the rig that they know, and the
 * edits of one be lost. It is a lock of the operating system, had by way of SQLite, so nothing is left of it by a process that was
 * killed. Rejects where the file system has no such locks.
 */
export function takeFolder(folder: string): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const opened = new sqlite3.Database(join(folder, 'pumice.lock'), (failed) => {
      if (failed) return reject(failed);
      lock = opened;
      lock.configure('busyTimeout', PATIENCE_MS);
      lock.exec('BEGIN EXCLUSIVE', (error) => {
        if (!error) resolve(true);
        else if ((error as Error & { code?: string }).code === 'SQLITE_BUSY') resolve(false);
        else reject(error);
      });
    });
  });
}
