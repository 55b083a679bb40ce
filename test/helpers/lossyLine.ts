import { Peer } from '../../src/core/rtpMidi/peer';
import { decodeSession } from '../../src/core/rtpMidi/session';
import { randomFrom } from '../../src/core/standIn/noise';

export interface Weather {
  loss: number;
  reorder: number;
  twice: number;
}

interface Datagram {
  atMs: number;
  deliver(): void;
}

/** Two peers and the line between them, with a clock of its own. */
export function lossyLine(weather: Weather, seed: number, theirAheadMs = 0) {
  const chance = randomFrom(seed);
  let nowMs = 1000;
  const flying: Datagram[] = [];
  const heard = { host: [] as { bytes: Uint8Array; timeMs: number }[], guest: [] as { bytes: Uint8Array; timeMs: number }[] };
  const ends: string[] = [];
  const fly = (deliver: () => void) => {
    if (chance() < weather.loss) return;
    flying.push({ atMs: nowMs + 1 + (chance() < weather.reorder ? 25 * chance() : 0), deliver });
    if (chance() < weather.twice) flying.push({ atMs: nowMs + 1 + 10 * chance(), deliver });
  };
  const clockOf = { host: () => nowMs, guest: () => nowMs + theirAheadMs };
  const peer = (who: 'host' | 'guest', to: () => Peer, invites: boolean): Peer =>
    new Peer(
      { invites, ourName: who, ssrc: who === 'host' ? 1 : 2, token: 99, firstSequence: who === 'host' ? 65_500 : 7 },
      {
        control: (bytes) => fly(() => to().session(decodeSession(bytes)!, 'control', clockOf[who === 'host' ? 'guest' : 'host']())),
        data: (bytes) => {
          fly(() => {
            const packet = decodeSession(bytes);
            const time = clockOf[who === 'host' ? 'guest' : 'host']();
            if (packet) to().session(packet, 'data', time);
            else to().stream(bytes, time);
          });
        },
      },
      { message: (bytes, timeMs) => heard[who].push({ bytes, timeMs }), opened: () => undefined, closed: (why) => ends.push(`${who} ${why}`) },
      clockOf[who](),
    );
  const host: Peer = peer('host', () => guest, true);
  const guest: Peer = peer('guest', () => host, false);
  const run = (ms: number) => {
    for (const end = nowMs + ms; nowMs < end; nowMs++) {
      for (const due of flying.filter(({ atMs }) => atMs <= nowMs).sort((a, b) => a.atMs - b.atMs)) {
        flying.splice(flying.indexOf(due), 1);
        due.deliver();
      }
      if (nowMs % 10 === 0) {
        host.tick(clockOf.host());
        guest.tick(clockOf.guest());
      }
    }
  };
  return { host, guest, heard, run, ends, now: () => nowMs, chance, setWeather: (next: Partial<Weather>) => Object.assign(weather, next) };
}

export const FAIR: Weather = { loss: 0, reorder: 0, twice: 0 };

/** What an instrument holds, as plainly as it can be written: the end state by which two streams are compared. */
export function instrument(messages: readonly Uint8Array[]) {
  const held = new Map<string, number>();
  const sounding = new Set<string>();
  const selected = new Map<number, string>();
  for (const [status, data1, data2 = 0] of messages as unknown as [number, number, number][]) {
    const channel = status & 15;
    const at = `${channel}:${data1}`;
    switch (status >> 4) {
      case 8:
        sounding.delete(at);
        break;
      case 9:
        if (data2 > 0) sounding.add(at);
        else sounding.delete(at);
        break;
      case 10:
        held.set(`poly ${at}`, data2);
        break;
      case 11:
        if (data1 === 101 || data1 === 99) selected.set(channel, `${data1}:${data2}`);
        else if (data1 === 100 || data1 === 98) selected.set(channel, `${selected.get(channel)},${data2}`);
        else if (data1 === 6 || data1 === 38) held.set(`parameter ${channel} ${selected.get(channel)} ${data1}`, data2);
        else if (data1 === 121) for (const key of [...held.keys()]) if (key.startsWith(`cc ${channel}:`) || key.startsWith(`bend ${channel}`)) held.delete(key);
        if (data1 === 123) for (const note of [...sounding]) if (note.startsWith(`${channel}:`)) sounding.delete(note);
        if (data1 < 96 && data1 !== 6 && data1 !== 38) held.set(`cc ${at}`, data2);
        break;
      case 12:
        held.set(`program ${channel}`, data1);
        break;
      case 13:
        held.set(`pressure ${channel}`, data1);
        break;
      case 14:
        held.set(`bend ${channel}`, data1 | (data2 << 7));
    }
  }
  return { held: Object.fromEntries([...held].sort(([a], [b]) => (a < b ? -1 : 1))), sounding: [...sounding].sort() };
}

/** One thing that a performer does; messages that belong together. Few numbers, so that much is said about each. */
export function anything(chance: () => number): Uint8Array[] {
  const upTo = (most: number) => Math.floor(chance() * most);
  const channel = upTo(3);
  const seven = () => upTo(128);
  const change = (controller: number, value: number) => Uint8Array.of(0xb0 | channel, controller, value);
  const kind = chance();
  if (kind < 0.25) return [Uint8Array.of(0x90 | channel, 60 + upTo(12), 1 + upTo(127))];
  if (kind < 0.5) return [Uint8Array.of(0x80 | channel, 60 + upTo(12), seven())];
  if (kind < 0.65) return [change([1, 7, 11, 20, 64, 74][upTo(6)]!, seven())];
  if (kind < 0.8) return [Uint8Array.of(0xe0 | channel, seven(), seven())];
  if (kind < 0.85) return [Uint8Array.of(0xd0 | channel, seven())];
  if (kind < 0.9) return [Uint8Array.of(0xa0 | channel, 60 + upTo(12), seven())];
  if (kind < 0.93) return [change(0, upTo(3)), change(32, upTo(3)), Uint8Array.of(0xc0 | channel, upTo(5))];
  if (kind < 0.985) return [change(101, 0), change(100, upTo(3)), change(6, seven()), change(38, seven())];
  if (kind < 0.992) return [change(121, 0)];
  return [change(123, 0)];
}
