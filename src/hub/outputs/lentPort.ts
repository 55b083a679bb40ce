import type { LentHandle, LentPorts } from './lentPorts';
import type { PortIdentity } from '../../core/midi/portName';
import type { Outgoing } from './outgoing';
import type { OutputSink, SinkEvents } from './sink';

/** A MIDI port of a browser that lends it. */
export class LentPort implements OutputSink {
  readonly takes = 'midi';
  readonly mayComeBack = true;
  private readonly port: LentHandle;

  constructor(lent: LentPorts, at: PortIdentity, { state }: SinkEvents) {
    this.port = lent.want(at, state);
  }

  send({ bytes }: Outgoing): void {
    this.port.send(bytes);
  }

  close(): void {
    this.port.close();
  }
}
