import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';

/** Below the sound servers of Linux, which begin at 10 and must not wait for us. */
const REAL_TIME_PRIORITY = '5';

/**
 * Asks the system to run this process before others, with every thread and process that it starts from here on: what is due must leave
 * also while a browser draws. Where the system does not let it, it plays all the same.
 * @param realTime whether before everything, see `comeInRealTime`: Linux alone
 * @returns why it cannot be in real time though that is asked for; else null
 */
export function comeFirst(realTime: boolean): string | null {
  try {
    setPriority(constants.priority.PRIORITY_HIGH);
  } catch {
    // Linux, without the right to a higher priority.
  }
  if (!realTime || (process.platform === 'linux' && comeInRealTime())) return null;
  return 'PUMICE_REAL_TIME is set, but the system does not let the hub run in real time: see the README. It plays all the same, a little less evenly.';
}

/**
 * In turns with others of real time and before all the rest: a priority alone is a share of the processor, and who has slept may still wait
 * for the next tick of the scheduler, 4 ms. Node has no call for it; `chrt` of util-linux is part of every Linux. Where a process in real
 * time is killed after a while without a pause (`RLIMIT_RTTIME`, getrlimit(2)) it is not asked for: a large rig takes longer to compile.
 */
function comeInRealTime(): boolean {
  try {
    if (!/^Max realtime timeout +unlimited/m.test(readFileSync('/proc/self/limits', 'utf8'))) return false;
  } catch {
    return false;
  }
  return spawnSync('chrt', ['--rr', '-p', REAL_TIME_PRIORITY, String(process.pid)], { stdio: 'ignore', timeout: 1000 }).status === 0;
}
