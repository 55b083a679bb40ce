import { createSocket } from 'node:dgram';
import type { Outgoing } from './outgoing';
import type { OutputSink } from './sink';

/** Sends OSC packets to one place over UDP. */
export class OscUdp implements OutputSink {
  readonly takes = 'osc';
  readonly mayComeBack = true;
  private readonly socket = createSocket('udp4');

  constructor(
    private readonly host: string,
    private readonly port: number,
  ) {
    // Nobody listening there is no reason to stop playing.
    this.socket.on('error', () => undefined);
  }

  /** A packet is made for each message alone, so the socket may keep it until it has gone. */
  send({ bytes }: Outgoing): void {
    this.socket.send(bytes, this.port, this.host);
  }

  close(): void {
    this.socket.close();
  }
}
