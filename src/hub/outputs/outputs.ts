import type { NetworkMidi } from '../network/networkMidi';
import type { NativePorts } from '../ports/nativePorts';
import type { LentPorts } from './lentPorts';
import type { OutputTests } from './tests';

/** Where outputs can lead, and how they are tried. */
export interface Outputs {
  ports: NativePorts;
  lent: LentPorts;
  network: NetworkMidi;
  tests: OutputTests;
}

/** Windows lets no program make MIDI ports of its own. */
export function canMakePorts(platform: NodeJS.Platform): boolean {
  return platform !== 'win32';
}
