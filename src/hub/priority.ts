import { spawnSync } from 'node:child_process';
import { constants, setPriority } from 'node:os';

/** The shortest turn that Linux gives (sched_setattr(2), since 6.12), ns. */
const TURN_NS = 100_000;

/** sched_setattr(2) and sched_getattr(2) by their numbers (syscalls(2)), where Node and Linux meet. */
const CALLS: Partial<Record<NodeJS.Architecture, [set: number, get: number]>> = { x64: [314, 315], arm64: [274, 275] };

/** Reads how the process is scheduled (`struct sched_attr`, 48 bytes), and says the same again but for the length of its turn. */
const ASK = `
my ($set, $get, $pid, $turn) = map { $_ + 0 } @ARGV;
my $layout = 'L L Q l L Q Q Q';
my $is = pack($layout, 48, (0) x 7);
syscall($get, $pid, $is, 48, 0) == 0 or exit 1;
my (undef, $policy, $flags, $nice) = unpack($layout, $is);
exit 1 if $policy != 0;
exit(syscall($set, $pid, pack($layout, 48, $policy, $flags, $nice, 0, $turn, 0, 0), 0) == 0 ? 0 : 1);`;

/**
 * Asks the system to run this process before others, with every thread and process that it starts from here on: what is due must leave
 * also while a browser draws. Where the system does not let it, it plays all the same.
 */
export function comeFirst(): void {
  try {
    setPriority(constants.priority.PRIORITY_HIGH);
  } catch {
    // Linux, without the right to a higher priority.
  }
  takeShortTurns();
}

/**
 * A priority is a share of the processor alone: who has slept may still wait for the end of another's turn, or for the next tick of the
 * scheduler, 4 ms. Who says that its own turns are short may come at once (the scheduler's *preempt short*; the share stays what it was, and
 * everybody may ask). Node has no call for it, `chrt` only lately; Perl is a part of nearly every Linux.
 */
function takeShortTurns(): void {
  const calls = CALLS[process.arch];
  if (process.platform === 'linux' && calls) spawnSync('perl', ['-e', ASK, ...[...calls, process.pid, TURN_NS].map(String)], { stdio: 'ignore', timeout: 5000 });
}
