import { matchesAddress } from '../../core/osc/addressPattern';
import { oscKey } from '../../core/inputs/feed';
import type { OscRule } from '../../protocol/inputSettings';
import { LIMITS } from '../../protocol/limits';
import { isLoopback } from '../../protocol/origin';
import type { OscValue } from '../../net/osc/codec';
import type { Feed, Intake, Source } from './intake';

/** Where one address of one sender goes: a feed, and by argument a source. Null where a rule leaves it out. */
export interface OscPlace {
  feed: Feed;
  sources: (Source | null)[];
}

interface Sender {
  host: string;
  port: number;
  key: string;
  addresses: Map<string, OscPlace | null>;
}

/** Names for the sender and the first part of the address: what an OSC device reports of itself. */
export function reportOf(host: string, address: string): { report: string; name: string } {
  const root = address.split('/')[1] ?? '';
  return { report: `${isLoopback(host) ? 'this computer' : host} /${root}`, name: nameOf(root) };
}

function nameOf(root: string): string {
  const words = root.replace(/[-_]+/g, ' ').trim().slice(0, LIMITS.nameLength);
  return words === '' ? 'OSC' : words[0]!.toUpperCase() + words.slice(1);
}

/** The senders of OSC that were heard, each with the addresses it uses. Every socket is a sender of its own. */
export class OscSenders {
  private readonly senders = new Map<string, Map<string, OscPlace | null>>();
  /** The one that spoke last, for mostly it speaks again. */
  private latest: Sender | null = null;
  rules: readonly OscRule[] = [];
  tooMany = 0;

  constructor(private readonly intake: Intake) {}

  /** Where an address of the sender that spoke last goes, where that was found out before. */
  known(host: string, port: number, address: string): OscPlace | null {
    const { latest } = this;
    if (!latest || latest.port !== port || latest.host !== host) return null;
    const place = latest.addresses.get(address);
    return place && !place.feed.gone ? place : null;
  }

  /** Where an address of a sender goes; null where it is left out. */
  place(host: string, port: number, address: string): OscPlace | null {
    const { latest } = this;
    const { key, addresses } = latest && latest.port === port && latest.host === host ? latest : this.sender(host, port);
    const known = addresses.get(address);
    if (known !== undefined && !known?.feed.gone) return known;
    if (addresses.size >= LIMITS.oscAddressesPerSender) {
      this.tooMany++;
      return null;
    }
    const place = this.newPlace(host, key, address);
    addresses.set(address, place);
    return place;
  }

  private sender(host: string, port: number): Sender {
    const key = `${host}:${port}`;
    let addresses = this.senders.get(key);
    if (!addresses) {
      // The one that was there longest goes; a sender that still speaks is known again with its next message.
      if (this.senders.size >= LIMITS.oscSenders) this.senders.delete(this.senders.keys().next().value!);
      addresses = new Map();
      this.senders.set(key, addresses);
    }
    return (this.latest = { host, port, key, addresses });
  }

  /** The source of one argument, made when it is first a number. */
  source(place: OscPlace, address: string, argument: number, value: OscValue): Source {
    const known = place.sources[argument];
    if (known) return known;
    const several = argument > 0 ? ` ${argument + 1}` : '';
    const isGate = typeof value === 'boolean';
    const source = this.intake.source(place.feed, {
      key: oscKey(address, argument),
      name: nameOf(`${address.split('/').slice(2).join(' ') || address.slice(1)}${several}`),
      kind: isGate ? 'gate' : 'continuous',
      unit: 'unit',
      range: rangeAround(value),
      osc: { address, argument },
    });
    while (place.sources.length < argument) place.sources.push(null);
    place.sources[argument] = source;
    return source;
  }

  /** After the rules changed: everything is placed anew when it is next heard. */
  forget(): void {
    this.senders.clear();
    this.latest = null;
  }

  private newPlace(host: string, connection: string, address: string): OscPlace | null {
    const rule = this.rules.find(({ pattern }) => matchesAddress(pattern, address));
    if (rule?.action === 'ignore') return null;
    const { report, name } = rule ? { report: `${isLoopback(host) ? 'this computer' : host} ${rule.pattern}`, name: rule.name } : reportOf(host, address);
    const feed = this.intake.connect({ kind: 'osc', report, name }, { connection, where: `UDP ${connection}` });
    return { feed, sources: [] };
  }
}

/** A first guess of the range, from the first value: it can be set, or fitted. */
function rangeAround(value: OscValue): [number, number] {
  const size = typeof value === 'number' && Number.isFinite(value) ? Math.abs(value) : 0;
  const hi = size <= 1 ? 1 : 10 ** Math.ceil(Math.log10(Math.min(size, 1e9)));
  return typeof value === 'number' && value < 0 ? [-hi, hi] : [0, hi];
}

