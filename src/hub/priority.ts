import { constants, setPriority } from 'node:os';

/**
 * Asks the system to run this process before others, with every thread that it starts from here on, and but for Windows every process: what
 * is due must leave also while a browser draws. False where the system does not let it (Linux, without the right to a higher priority); it plays all the same.
 */
export function comeFirst(): boolean {
  try {
    setPriority(constants.priority.PRIORITY_HIGH);
    return true;
  } catch {
    return false;
  }
}
