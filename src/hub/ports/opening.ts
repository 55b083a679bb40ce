import type { PortIdentity } from '../../core/midi/portName';

/** What a thread is to open: a port of others, or one of our own making. */
export interface Opening {
  direction: 'in' | 'out';
  at: PortIdentity;
  make?: string;
}
