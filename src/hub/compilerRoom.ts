import { setFlagsFromString } from 'node:v8';

/**
 * Lets V8 put the whole step of a mapping into one piece of machine code. With the usual limits it stops half way, at a
 * different place in each run, and a step costs half as much again and allocates (docs/decisions/0005). Call it before the first
 * sample; a flag that a later V8 does not know is only reported on stderr.
 */
export function giveCompilerRoom(): void {
  setFlagsFromString('--max-inlined-bytecode-size=2000');
  setFlagsFromString('--max-inlined-bytecode-size-cumulative=8000');
  // Beyond this not even the smallest functions are put in; it is 4600 unless said.
  setFlagsFromString('--max-inlined-bytecode-size-absolute=12000');
}
