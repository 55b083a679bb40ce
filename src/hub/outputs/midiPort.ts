import type { NativePorts, PortHandle, PortTarget } from '../ports/nativePorts';
import type { Outgoing } from './outgoing';
import type { OutputSink, SinkEvents } from './sink';

/** A MIDI port of this computer, or one that Pumice makes. */
export class MidiPort implements OutputSink {
  readonly takes = 'midi';
  readonly mayComeBack = true;
  private readonly port: PortHandle;

  constructor(ports: Pick<NativePorts, 'want'>, target: PortTarget, { state }: SinkEvents) {
    this.port = ports.want(target, { state });
  }

  send({ bytes }: Outgoing): void {
    this.port.send(bytes);
  }

  close(): void {
    this.port.close();
  }
}
