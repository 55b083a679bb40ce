import { holdsNotes } from '../../../core/midi/controllers';
import { STATUS } from '../../../core/midi/message';
import { identify } from '../../../core/midi/portName';
import type { LiveConnection } from '../connection';
import { HERE } from '../store';

const RELEASE = 64;

/** What of a MIDI port of a browser is needed to write to it. */
export interface WritablePort {
  name: string | null;
  send(bytes: Uint8Array): void;
}

/**
 * Lends the MIDI ports of this browser to the hub, which writes to them through the live line. Where the line goes down, or
 * the page, what sounds there is ended from here, and pedals that hold it are lifted: the hub cannot.
 */
export class PortLender {
  private ports: readonly WritablePort[] = [];
  /** By port, for as long as it is there. */
  private readonly numbers = new Map<WritablePort, number>();
  private nextNumber = 0;
  /** By port: what ends what sounds and holds there, by its status byte and number. */
  private readonly ends = new Map<WritablePort, Map<number, Uint8Array>>();
  private readonly stops: (() => void)[];

  constructor(private readonly live: LiveConnection) {
    this.stops = [
      live.state.listen(() => (live.status === 'open' ? this.tell() : this.letGo())),
      live.store.written.listen(HERE, (port, bytes) => this.write(port, bytes)),
    ];
  }

  lend(ports: readonly WritablePort[]): void {
    this.ports = ports;
    for (const known of [this.ends, this.numbers]) for (const port of known.keys()) if (!ports.includes(port)) known.delete(port);
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
    for (const [port, ends] of this.ends) {
      for (const end of ends.values()) send(port, end);
      ends.clear();
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
    const end = endOf(bytes);
    if (end) {
      const ends = this.ends.get(port) ?? new Map<number, Uint8Array>();
      this.ends.set(port, ends);
      const key = (end[0]! << 7) | end[1]!;
      const begins = bytes[2]! > 0 && (bytes[0]! & 0xf0) !== STATUS.noteOff;
      if (begins) ends.set(key, end);
      else ends.delete(key);
    }
    send(port, bytes);
  }
}

/** The message that ends what one about a note or a pedal begins; null for others. */
function endOf([status = 0, number = 0]: Uint8Array): Uint8Array | null {
  const [kind, channel] = [status & 0xf0, status & 0x0f];
  if (kind === STATUS.noteOn || kind === STATUS.noteOff) return Uint8Array.of(STATUS.noteOff | channel, number, RELEASE);
  return kind === STATUS.controlChange && holdsNotes(number) ? Uint8Array.of(status, number, 0) : null;
}

function send(port: WritablePort, bytes: Uint8Array): void {
  try {
    port.send(bytes);
  } catch {
    // It has just gone, or the browser allows no SysEx: the hub is told of the former by the list.
  }
}
