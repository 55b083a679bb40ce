import { identify } from '../../../core/midi/portName';
import type { LiveConnection } from '../connection';
import { HERE } from '../store';

const NOTE_OFF = 0x80;
const NOTE_ON = 0x90;
const RELEASE = 64;

/** What of a MIDI port of a browser is needed to write to it. */
export interface WritablePort {
  name: string | null;
  send(bytes: Uint8Array): void;
}

/**
 * Lends the MIDI ports of this browser to the hub, which writes to them through the live line. Where the line goes down, or
 * the page, what sounds there is ended from here: the hub cannot.
 */
export class PortLender {
  private ports: readonly WritablePort[] = [];
  /** By port, for as long as it is there. */
  private readonly numbers = new Map<WritablePort, number>();
  private nextNumber = 0;
  /** By port: channel and note of what sounds. */
  private readonly sounding = new Map<WritablePort, Set<number>>();
  private readonly stops: (() => void)[];

  constructor(private readonly live: LiveConnection) {
    this.stops = [
      live.state.listen(() => (live.status === 'open' ? this.tell() : this.letGo())),
      live.store.written.listen(HERE, (port, bytes) => this.write(port, bytes)),
    ];
  }

  lend(ports: readonly WritablePort[]): void {
    this.ports = ports;
    for (const known of [this.sounding, this.numbers]) for (const port of known.keys()) if (!ports.includes(port)) known.delete(port);
    for (const port of ports) if (!this.numbers.has(port)) this.numbers.set(port, this.nextNumber++);
    this.tell();
  }

  close(): void {
    for (const stop of this.stops) stop();
    this.letGo();
    if (this.ports.length > 0) this.live.tell({ kind: 'lend', ports: [] });
    this.ports = [];
  }

  /** Ends what sounds at the ports. */
  letGo(): void {
    for (const [port, keys] of this.sounding) {
      for (const key of keys) send(port, Uint8Array.of(NOTE_OFF | (key >> 7), key & 0x7f, RELEASE));
      keys.clear();
    }
  }

  private tell(): void {
    // A browser gives its ports names that do not change from day to day.
    const identities = identify(this.ports.map(({ name }) => name ?? ''), 'web');
    this.live.tell({ kind: 'lend', ports: this.ports.map((port, i) => ({ ...identities[i]!, number: this.numbers.get(port)! })) });
  }

  private write(number: number, bytes: Uint8Array): void {
    const port = this.ports.find((one) => this.numbers.get(one) === number);
    if (!port) return;
    const kind = bytes[0]! & 0xf0;
    if (kind === NOTE_ON || kind === NOTE_OFF) {
      const key = ((bytes[0]! & 0x0f) << 7) | bytes[1]!;
      const sounding = this.sounding.get(port) ?? new Set();
      this.sounding.set(port, sounding);
      if (kind === NOTE_ON && bytes[2]! > 0) sounding.add(key);
      else sounding.delete(key);
    }
    send(port, bytes);
  }
}

function send(port: WritablePort, bytes: Uint8Array): void {
  try {
    port.send(bytes);
  } catch {
    // It has just gone, or the browser allows no SysEx: the hub is told of the former by the list.
  }
}
