import { describe, expect, it } from 'vitest';
import { randomFrom } from '../standIn/noise';
import { Peer } from './peer';
import { decodeSession } from './session';

interface Weather {
  loss: number;
  reorder: number;
  twice: number;
}

interface Datagram {
  atMs: number;
  deliver(): void;
}

/** Two peers and the line between them, with a clock of its own. */
function line(weather: Weather, seed: number, theirAheadMs = 0) {
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

const FAIR: Weather = { loss: 0, reorder: 0, twice: 0 };

/** What an instrument holds, as plainly as it can be written: the end state by which two streams are compared. */
function instrument(messages: readonly Uint8Array[]) {
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
function anything(chance: () => number): Uint8Array[] {
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

describe('a stream', () => {
  it.each([
    { loss: 0.01, reorder: 0, twice: 0 },
    { loss: 0.05, reorder: 0.05, twice: 0.05 },
    { loss: 0.2, reorder: 0.1, twice: 0.1 },
  ])('of 20,000 messages ends in the same state, with not one note hanging: %o', (weather) => {
    const { host, guest, heard, run, chance, setWeather } = line({ ...FAIR }, 20_261_126);
    run(20);
    expect([host.state, guest.state]).toEqual(['open', 'open']);
    setWeather(weather);
    const said: Uint8Array[] = [];
    while (said.length < 20_000) {
      const group = anything(chance);
      said.push(...group);
      host.send([group], 1000);
      run(1 + Math.floor(3 * chance()));
    }
    // The last of it may be lost as well; only what follows by itself can say so.
    run(8000);
    expect(guest.receiver.counts.lost).toBeGreaterThan(50);
    expect(guest.receiver.counts.broken).toBe(0);
    const there = instrument(heard.guest.map(({ bytes }) => bytes));
    const here = instrument(said);
    expect(there.held).toEqual(here.held);
    // A note whose beginning was told of too late is left out, never one that ends.
    expect(here.sounding).toEqual(expect.arrayContaining(there.sounding));
    expect(host.sender.hasUntold).toBe(false);
  });

  it('says the end of the last note also where it was lost, and then is silent', () => {
    const { host, heard, run, setWeather } = line({ ...FAIR }, 5);
    run(20);
    host.send([[Uint8Array.of(0x90, 60, 100)]], 1020);
    run(300);
    setWeather({ loss: 1 });
    host.send([[Uint8Array.of(0x80, 60, 64)]], 1320);
    run(30);
    setWeather({ loss: 0 });
    run(100);
    expect(heard.guest.map(({ bytes }) => [...bytes])).toEqual([
      [0x90, 60, 100],
      [0x80, 60, 64],
    ]);
    run(500);
    const { packets } = host.sender.written;
    run(3000);
    expect(host.sender.written.packets).toBe(packets);
  });

  it('gives messages the time when they happened, however far apart the clocks are', () => {
    const { host, heard, run, setWeather, now } = line({ ...FAIR }, 5, 987_654_321_000);
    run(3000);
    const sentMs = now();
    host.send([[Uint8Array.of(0x90, 60, 100)]], sentMs);
    setWeather({});
    run(20);
    expect(heard.guest[0]!.timeMs).toBeCloseTo(sentMs + 987_654_321_000, 0);
  });

  it('keeps a SysEx of many packets whole, or leaves it out', () => {
    const { host, heard, run, setWeather } = line({ ...FAIR }, 3);
    run(20);
    const long = Uint8Array.from({ length: 5000 }, (_, i) => (i === 0 ? 0xf0 : i === 4999 ? 0xf7 : i % 128));
    host.send([[long]], 1020);
    run(20);
    expect(heard.guest.map(({ bytes }) => bytes)).toEqual([long]);
    setWeather({ loss: 0.4 });
    host.send([[long]], 1040);
    run(200);
    expect(heard.guest.length === 1 || heard.guest[1]!.bytes.length === 5000).toBe(true);
  });
});

describe('a peer', () => {
  it('that does not answer is invited again and again', () => {
    const { host, guest, run, setWeather, ends } = line({ loss: 1, reorder: 0, twice: 0 }, 1);
    run(20_000);
    expect(host.state).toBe('control');
    expect(ends).toEqual(['guest does not answer']);
    setWeather({ loss: 0 });
    expect(guest.state).toBe('closed');
  });

  it('that falls silent is gone after seven seconds, where we asked; after half a minute, where it did', () => {
    const { host, guest, run, setWeather, ends } = line({ ...FAIR }, 1);
    run(1000);
    setWeather({ loss: 1 });
    run(6000);
    expect([host.state, guest.state]).toEqual(['open', 'open']);
    run(2000);
    expect(ends).toEqual(['host does not answer any more']);
    run(30_000);
    expect(ends).toEqual(['host does not answer any more', 'guest does not answer any more']);
  });

  it('that leaves says so', () => {
    const { guest, run, ends } = line({ ...FAIR }, 1);
    run(1000);
    guest.close();
    run(10);
    expect(ends).toEqual(['host left']);
  });

  it('believes no feedback on what it never sent, and no stream of another source', () => {
    const { host, guest, heard, run, now } = line({ ...FAIR }, 1);
    run(100);
    host.send([[Uint8Array.of(0x90, 60, 100)]], now());
    host.session({ kind: 'feedback', ssrc: 2, sequence: 65_500 + 30 }, 'control', now());
    expect(host.sender.hasUntold).toBe(true);
    guest.stream(Uint8Array.of(0x80, 97, 0, 9, 0, 0, 0, 0, 0, 0, 0, 77, 3, 0x90, 1, 1), now());
    guest.stream(Uint8Array.of(1, 2, 3), now());
    run(100);
    expect(heard.guest.map(({ bytes }) => [...bytes])).toEqual([[0x90, 60, 100]]);
  });

  it('without journals has its notes ended where packets were lost', () => {
    const { guest, heard, run, now } = line({ ...FAIR }, 1);
    run(100);
    const packet = (sequence: number, note: number) => Uint8Array.of(0x80, 0x61, 0, sequence, 0, 0, 0, 0, 0, 0, 0, 1, 3, 0x90, note, 1);
    guest.stream(packet(1, 60), now());
    guest.stream(packet(3, 62), now());
    expect(heard.guest.map(({ bytes }) => [...bytes])).toEqual([
      [0x90, 60, 1],
      [0x80, 60, 64],
      [0x90, 62, 1],
    ]);
  });
});
