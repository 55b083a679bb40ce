import { createSocket, type Socket } from 'node:dgram';
import type { Logger } from 'pino';
import { isPattern, matchesAddress } from '../../core/osc/addressPattern';
import type { RigDocument } from '../../core/rig/document';
import { isLoopback } from '../../protocol/origin';
import { decodeOsc, type OscMessage } from '../osc/codec';
import type { Player } from '../player';
import { hubTimeMs } from '../time';

/** Asked of the system, so that a burst during a stall is kept; what it gave is in the log. */
const RECEIVE_BUFFER_BYTES = 4 * 1024 * 1024;
/** Packets that are left out are counted, and said no more often than this. */
const COMPLAIN_MS = 5000;

/** A signal by its hub number, and which argument of its address it is. */
interface OscSignal {
  number: number;
  argument: number;
}

/** Listens for OSC over UDP on this computer, and hands each argument that a signal of the rig names to the player. */
export class OscInput {
  private readonly socket: Socket = createSocket('udp4');
  private indexed: RigDocument | null = null;
  private index = new Map<string, OscSignal[]>();
  private leftOut = 0;
  private readonly complainedMs = { loop: 0, broken: 0 };

  constructor(
    private readonly player: Player,
    private readonly log: Logger,
  ) {
    this.socket.on('message', (packet, { address }) => this.receive(packet, address));
  }

  /** Resolves when it listens; rejects where the port is taken. */
  listen(port: number): Promise<void> {
    return new Promise((resolve, reject) => {
      this.socket.once('error', reject);
      this.socket.bind(port, '127.0.0.1', () => {
        this.socket.off('error', reject);
        this.socket.on('error', (error) => this.log.error({ err: error }, 'OSC input'));
        this.socket.setRecvBufferSize(RECEIVE_BUFFER_BYTES);
        this.log.info({ port, receiveBufferBytes: this.socket.getRecvBufferSize() }, 'listening for OSC');
        resolve();
      });
    });
  }

  close(): void {
    this.socket.close();
  }

  private receive(packet: Uint8Array, sender: string): void {
    if (!isLoopback(sender)) return;
    const timeMs = hubTimeMs();
    const loop = this.player.loops.received('OSC', packet, timeMs);
    if (loop) return this.complain('loop', `what ${loop.output} sends comes back at the ${loop.input} port and is held back: send it elsewhere.`);
    let messages: OscMessage[];
    try {
      messages = decodeOsc(packet);
    } catch (error) {
      return this.complain('broken', `a broken OSC packet was left out: ${(error as Error).message}`);
    }
    for (const message of messages) this.hear(message, timeMs);
  }

  private hear({ address, arguments: values }: OscMessage, timeMs: number): void {
    const byAddress = this.signalsByAddress();
    if (!isPattern(address)) return this.play(byAddress.get(address), values, timeMs);
    for (const [known, signals] of byAddress) if (matchesAddress(address, known)) this.play(signals, values, timeMs);
  }

  private play(signals: readonly OscSignal[] | undefined, values: readonly unknown[], timeMs: number): void {
    for (const { number, argument } of signals ?? []) {
      const value = toNumber(values[argument]);
      if (value !== null) this.player.sample(number, timeMs, value, null);
    }
  }

  /** The signals of the rig that plays, by their address; worked out anew when it is another rig. */
  private signalsByAddress(): ReadonlyMap<string, OscSignal[]> {
    const { rig } = this.player;
    if (rig !== this.indexed) {
      this.indexed = rig;
      this.index = new Map();
      for (const { id, osc } of rig?.signals ?? []) {
        const number = this.player.signals.find(id);
        if (!osc || number === undefined) continue;
        this.index.set(osc.address, [...(this.index.get(osc.address) ?? []), { number, argument: osc.argument }]);
      }
    }
    return this.index;
  }

  private complain(about: 'loop' | 'broken', sentence: string): void {
    this.leftOut++;
    const nowMs = hubTimeMs();
    if (nowMs - this.complainedMs[about] < COMPLAIN_MS) return;
    this.complainedMs[about] = nowMs;
    this.log.warn({ leftOut: this.leftOut }, sentence);
  }
}

function toNumber(value: unknown): number | null {
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  return typeof value === 'boolean' ? Number(value) : null;
}
