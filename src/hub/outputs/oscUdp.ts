import { createSocket } from 'node:dgram';
import type { OutputSink } from './sink';

/** Sends OSC packets to one place over UDP. MIDI bytes have no meaning there and are left out. */
export class OscUdp implements OutputSink {
  readonly mayComeBack = true;
  private readonly socket = createSocket('udp4');

  constructor(
    private readonly host: string,
    private readonly port: number,
  ) {
    // Nobody listening there is no reason to stop playing.
    this.socket.on('error', () => undefined);
  }

  send(bytes: Uint8Array): void {
    if (bytes[0] === SLASH) this.socket.send(bytes, this.port, this.host);
  }

  close(): void {
    this.socket.close();
  }
}

const SLASH = 0x2f;
