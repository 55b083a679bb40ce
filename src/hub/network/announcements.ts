import { hostname } from 'node:os';
import { Bonjour, type Service } from 'bonjour-service';
import { lanAddresses } from '../../net/lanAddresses';
import { isPort, type Place } from './udpPair';

/** The type under which sessions of network MIDI announce themselves by DNS-SD (RFC 6763), as registered. */
const TYPE = 'apple-midi';
const ASK_AGAIN_MS = 30_000;
/** So often the addresses of this computer are looked at: they are announced with its sessions, and a network may come or change. */
const LOOK_MS = 3000;

/** A session somewhere in the network that says of itself that it is there. */
export interface Announced {
  name: string;
  at: Place;
}

/** Announces sessions of this computer in its network, and finds those of others (DNS-SD over multicast DNS). */
export class Announcements {
  private bonjour: Bonjour | null = null;
  private timers: NodeJS.Timeout[] = [];
  private services: readonly Service[] = [];
  /** Why nobody can be found and nobody finds us; null where it works. */
  problem: string | null = null;

  constructor(
    /** The one address of this computer that is used; null for all. */
    private readonly address: string | null,
    private readonly onChange: () => void,
    private readonly addressesNow = () => lanAddresses([]).join(' '),
  ) {}

  start(sessions: readonly { name: string; port: number }[]): void {
    this.stop();
    this.problem = null;
    const failed = (error: Error) => {
      this.problem = `sessions are neither announced nor found (${error.message}): connect by address`;
      this.onChange();
    };
    // Everybody's questions come by multicast, which no socket hears that is bound to an address.
    const options = this.address === null ? {} : { interface: this.address, bind: '0.0.0.0' };
    const bonjour = new Bonjour(options as object, failed);
    this.bonjour = bonjour;
    // The package leaves the errors of its socket to whoever listens; unheard they would end the hub.
    const { mdns } = (bonjour as unknown as { server: { mdns: NodeJS.EventEmitter } }).server;
    mdns.on('error', failed);
    mdns.on('warning', () => undefined);
    for (const { name, port } of sessions) bonjour.publish({ name, type: TYPE, protocol: 'udp', port, probe: false });
    const browser = bonjour.find({ type: TYPE, protocol: 'udp' });
    const changed = () => {
      this.services = browser.services;
      this.onChange();
    };
    for (const event of ['up', 'down', 'srv-update'] as const) browser.on(event, changed);
    const askAgain = setInterval(() => {
      browser.expire();
      browser.update();
      changed();
    }, ASK_AGAIN_MS);
    const addresses = this.addressesNow();
    const look = setInterval(() => this.addressesNow() !== addresses && this.start(sessions), LOOK_MS);
    this.timers = [askAgain, look];
  }

  /** Those of others. @param own the names under which ours are announced */
  found(own: ReadonlySet<string>): Announced[] {
    return this.services.flatMap(({ name, port, referer, addresses = [] }) => {
      // Where an answer came from can be reached; of what it lists that is not sure.
      const address = [referer?.address, ...addresses].find((one) => one !== undefined && /^\d+(\.\d+){3}$/.test(one));
      // Port 0 holds a name for something else (RFC 6763, section 8); the streams have the port above.
      return address === undefined || own.has(name) || !isPort(port) || !isPort(port + 1) ? [] : [{ name, at: { address, port } }];
    });
  }

  stop(): void {
    for (const timer of this.timers) clearInterval(timer);
    this.timers = [];
    const { bonjour } = this;
    this.bonjour = null;
    this.services = [];
    bonjour?.unpublishAll(() => bonjour.destroy());
  }
}

/** A label of DNS has at most 63 octets (RFC 1035, section 2.3.4). */
const LABEL_MOST = 63;

/**
 * How a session of this computer is announced: under which name it is found, and who it says that it is. It is one label of DNS, which
 * dots would cut into several; of the name of a computer the first tells which it is.
 */
export function announcedName(session: string, host = hostname()): string {
  let label = '';
  for (const letter of `${session} on ${host.split('.')[0]}`.replaceAll('.', '-')) {
    if (Buffer.byteLength(label + letter) > LABEL_MOST) break;
    label += letter;
  }
  return label;
}
