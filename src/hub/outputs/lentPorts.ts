import { samePort, type PortIdentity } from '../../core/midi/portName';
import type { LentIdentity } from '../../protocol/live';

/** A page that lends ports of its browser. */
export interface Lender {
  /** Writes to one of the ports that it lends, by its number. */
  write(number: number, bytes: Uint8Array): void;
}

export interface LentHandle {
  send(bytes: Uint8Array): void;
  close(): void;
}

interface Wanted {
  at: PortIdentity;
  state: (away: string | null) => void;
  from: { lender: Lender; number: number } | null;
}

/** The MIDI ports that pages lend, and who wants them. Where two pages lend the same, the one that came first has it. */
export class LentPorts {
  private readonly lenders = new Map<Lender, readonly LentIdentity[]>();
  private readonly wanted = new Set<Wanted>();

  constructor(private readonly onChange: () => void = () => undefined) {}

  /** All that are there, each once. */
  get there(): PortIdentity[] {
    const all: PortIdentity[] = [];
    for (const ports of this.lenders.values()) for (const { report, slot } of ports) if (!all.some((known) => samePort(known, { report, slot }))) all.push({ report, slot });
    return all;
  }

  /** A page lends these from now on; none: no more. */
  lend(lender: Lender, ports: readonly LentIdentity[]): void {
    if (ports.length === 0) this.lenders.delete(lender);
    else this.lenders.set(lender, ports);
    for (const wanted of this.wanted) this.find(wanted);
    this.onChange();
  }

  want(at: PortIdentity, state: (away: string | null) => void): LentHandle {
    const wanted: Wanted = { at, state, from: null };
    this.wanted.add(wanted);
    state(AWAY);
    this.find(wanted);
    return {
      send: (bytes) => wanted.from?.lender.write(wanted.from.number, bytes),
      close: () => void this.wanted.delete(wanted),
    };
  }

  private find(wanted: Wanted): void {
    const { from, at } = wanted;
    if (from && this.lenders.get(from.lender)?.some((port) => port.number === from.number && samePort(port, at))) return;
    wanted.from = null;
    for (const [lender, ports] of this.lenders) {
      const port = ports.find((one) => samePort(one, at));
      if (!port) continue;
      wanted.from = { lender, number: port.number };
      break;
    }
    // From one port to another: what the first was sent last may not have arrived, so it is said again there.
    if (from) wanted.state(AWAY);
    if (wanted.from) wanted.state(null);
  }
}

const AWAY = 'is not here: no page that is open lends it';
