import type { NetworkHandle, NetworkMidi, NetworkTarget } from '../network/networkMidi';
import type { Outgoing } from './outgoing';
import type { OutputSink, SinkEvents } from './sink';

/** Somebody at the other end of a session of network MIDI, or all who are in it. */
export class NetworkPort implements OutputSink {
  readonly takes = 'midi';
  readonly mayComeBack = true;
  private readonly handle: NetworkHandle;

  constructor(network: Pick<NetworkMidi, 'want'>, target: NetworkTarget, { state }: SinkEvents) {
    this.handle = network.want(target, state);
  }

  send({ bytes }: Outgoing): void {
    this.handle.send(bytes);
  }

  close(): void {
    this.handle.close();
  }
}
