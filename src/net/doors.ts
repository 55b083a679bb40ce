import { createServer as createHttpServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { createServer as createHttpsServer, type Server as HttpsServer } from 'node:https';
import { createServer as createNetServer, type Server as NetServer, type Socket } from 'node:net';
import type { Duplex } from 'node:stream';
import { makeCertificate, type Pem } from './certificate';
import { lanAddresses } from './lanAddresses';

/** How often the addresses of this computer are looked at: a network may come and go while playing. */
const LOOK_MS = 3000;
/** How long a line is kept for the next request. With Node's 5 s one that asks now and then often meets a line that is just being closed. */
const KEPT_MS = 30_000;
/** Who comes in and says nothing for so long is shown out, as Node does where it need not tell TLS apart. */
const SILENT_MS = 60_000;
/** The first byte of a TLS handshake record (RFC 8446, section 5.1). */
const HANDSHAKE = 22;
const THIS_COMPUTER = '127.0.0.1';

/** Where a request came in: by this computer's own address, or from the network. */
export interface Door {
  address: string;
  lan: boolean;
}

export interface DoorEvents {
  request(request: IncomingMessage, response: ServerResponse, door: Door): void;
  upgrade?(request: IncomingMessage, socket: Duplex, head: Buffer, door: Door): void;
  /** A door of the network could not be opened, for this reason. */
  shut(address: string, reason: string): void;
}

interface OpenDoor extends Door {
  front: NetServer;
  secure: HttpsServer | null;
  sockets: Set<Socket>;
}

/**
 * The addresses that a process listens on: its own always, those of the network only while they are switched on, each
 * as a server of its own, so that nothing listens that was not asked for and a request is known by the door it took.
 * With an authority each door speaks TLS and plain HTTP on the same port, told apart by the first byte.
 */
export class Doors {
  private readonly open = new Map<string, OpenDoor>();
  /** Asked for; those that are not open yet are tried again. */
  private lanOn = false;
  private looking: ReturnType<typeof setInterval> | null = null;
  private readonly shutFor = new Map<string, string>();
  /** One look after the other: two at once would both open the same door. */
  private looks: Promise<void> = Promise.resolve();

  constructor(
    private readonly port: number,
    private readonly authority: Pem | null,
    private readonly chosen: readonly string[],
    private readonly events: DoorEvents,
  ) {}

  /** The door of this computer. Rejects where its port is taken. */
  openOwn(): Promise<void> {
    return this.openAt({ address: THIS_COMPUTER, lan: false });
  }

  /** Opens or closes the doors of the network; ends when the first look at the addresses is over. */
  async setLan(on: boolean): Promise<void> {
    this.lanOn = on;
    if (this.looking) clearInterval(this.looking);
    this.looking = on ? setInterval(() => void this.look(), LOOK_MS) : null;
    this.looking?.unref();
    await this.look();
  }

  /** The addresses of the network that are listened on now. */
  get addresses(): string[] {
    return [...this.open.values()].filter(({ lan }) => lan).map(({ address }) => address);
  }

  close(): void {
    if (this.looking) clearInterval(this.looking);
    for (const address of [...this.open.keys()]) this.shut(address);
  }

  private look(): Promise<void> {
    this.looks = this.looks.then(() => this.lookOnce());
    return this.looks;
  }

  private async lookOnce(): Promise<void> {
    const wanted = this.lanOn ? lanAddresses(this.chosen) : [];
    for (const { address, lan } of [...this.open.values()]) if (lan && !wanted.includes(address)) this.shut(address);
    for (const address of wanted) {
      if (this.open.has(address)) continue;
      try {
        await this.openAt({ address, lan: true });
        this.shutFor.delete(address);
      } catch (error) {
        const reason = (error as Error).message;
        if (this.shutFor.get(address) !== reason) this.events.shut(address, reason);
        this.shutFor.set(address, reason);
      }
    }
    // Switched off while one was being opened.
    if (!this.lanOn) for (const { address, lan } of [...this.open.values()]) if (lan) this.shut(address);
  }

  private async openAt(door: Door): Promise<void> {
    const plain = this.serve(createHttpServer(), door);
    const secure = this.authority ? (this.serve(createHttpsServer(await makeCertificate(this.authority, door.lan ? [door.address] : [], Date.now())), door) as HttpsServer) : null;
    const front = secure ? createNetServer((socket) => tellApart(socket, plain, secure)) : plain;
    const sockets = new Set<Socket>();
    front.on('connection', (socket: Socket) => {
      sockets.add(socket);
      socket.once('close', () => sockets.delete(socket));
    });
    await new Promise<void>((resolve, reject) => {
      front.once('error', reject);
      front.listen(this.port, door.address, resolve);
    });
    front.on('error', () => undefined);
    this.open.set(door.address, { ...door, front, secure, sockets });
  }

  private serve<S extends Server | HttpsServer>(server: S, door: Door): S {
    server.keepAliveTimeout = KEPT_MS;
    server.on('request', (request: IncomingMessage, response: ServerResponse) => this.events.request(request, response, door));
    if (this.events.upgrade) server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => this.events.upgrade!(request, socket, head, door));
    return server;
  }

  /** Closes a door, and on whoever is still in it. */
  private shut(address: string): void {
    const { front, sockets } = this.open.get(address)!;
    this.open.delete(address);
    front.close();
    for (const socket of sockets) socket.destroy();
  }
}

function tellApart(socket: Socket, plain: Server, secure: HttpsServer): void {
  socket.on('error', () => socket.destroy());
  socket.setTimeout(SILENT_MS, () => socket.destroy());
  socket.once('readable', () => {
    socket.setTimeout(0);
    socket.removeAllListeners('timeout');
    const first = socket.read() as Buffer | null;
    if (!first) return socket.destroy();
    socket.unshift(first);
    (first[0] === HANDSHAKE ? secure : plain).emit('connection', socket);
  });
}

/** Whether a request came over TLS. */
export function isSecure(request: IncomingMessage): boolean {
  return 'encrypted' in request.socket && request.socket.encrypted === true;
}
