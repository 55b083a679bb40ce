import { createSocket } from 'node:dgram';
import type { Outgoing } from './outgoing';
import type { OutputSink } from './sink';

/** Sends OSC packets to one place over UDP. */
export class OscUdp implements OutputSink {
  readonly takes = 'osc';
  readonly mayComeBack = true;
  private readonly socket = createSocket('udp4');
  /** Packets that the socket still has. */
  private going = 0;
  private closes = false;

  constructor(
    private readonly host: string,
    private readonly port: number,
  ) {
    // Nobody listening there is no reason to stop playing.
    this.socket.on('error', () => undefined);
  }

  /** A packet is made for each message alone, so the socket may keep it until it has gone. */
  send({ bytes }: Outgoing): void {
    this.going++;
    this.socket.send(bytes, this.port, this.host, this.gone);
  }

  /** What was sent just before still goes: it may be the end of a voice, and the socket looks the host up first. */
  close(): void {
    this.closes = true;
    if (this.going === 0) this.socket.close();
  }

  private readonly gone = (): void => {
    this.going--;
    if (this.closes && this.going === 0) this.socket.close();
  };
}
