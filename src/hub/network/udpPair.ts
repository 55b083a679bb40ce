import { createSocket, type RemoteInfo, type Socket } from 'node:dgram';

/** Another end, by where its datagrams come from. */
export interface Place {
  address: string;
  port: number;
}

export type Which = 'control' | 'data';

/** Whether a port can be sent to. */
export const isPort = (port: number): boolean => port > 0 && port < 0x10000;

/** The two ports of a session, one beside the other: commands of the session, and the streams. */
export class UdpPair {
  private leaving = 0;
  private onEmpty: (() => void) | null = null;

  private constructor(private readonly sockets: Record<Which, Socket>) {}

  /** Opens both, or throws the reason. @param address of this computer; null for all of them */
  static async open(port: number, address: string | null, heard: (bytes: Uint8Array, from: Place, which: Which) => void): Promise<UdpPair> {
    const control = await bound(port, address);
    try {
      const data = await bound(port + 1, address);
      const listen = (socket: Socket, which: Which) => socket.on('message', (bytes: Buffer, { address: from, port: at }: RemoteInfo) => heard(bytes, { address: from, port: at }, which));
      listen(control, 'control');
      listen(data, 'data');
      return new UdpPair({ control, data });
    } catch (error) {
      control.close();
      throw error;
    }
  }

  /** What cannot be delivered is lost, as anything may be: also what goes to no port, such as the one above the last. */
  send(which: Which, bytes: Uint8Array, { address, port }: Place): void {
    if (!isPort(port)) return;
    this.leaving++;
    this.sockets[which].send(bytes, port, address, () => {
      if (--this.leaving === 0) this.onEmpty?.();
    });
  }

  /** Closes both when what was sent last has left: a socket that is closed at once takes it along. */
  async close(): Promise<void> {
    if (this.leaving > 0) await new Promise<void>((resolve) => (this.onEmpty = resolve));
    for (const socket of Object.values(this.sockets)) socket.close();
  }
}

function bound(port: number, address: string | null): Promise<Socket> {
  const socket = createSocket('udp4');
  return new Promise((resolve, reject) => {
    socket.once('error', (error) => {
      socket.close();
      reject(error);
    });
    socket.bind(port, address ?? undefined, () => {
      socket.removeAllListeners('error');
      // A port of a peer that is closed, a network that is gone: its silence says enough.
      socket.on('error', () => undefined);
      resolve(socket);
    });
  });
}
