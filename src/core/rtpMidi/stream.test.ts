import { describe, expect, it } from 'vitest';
import { anything, FAIR, instrument, lossyLine } from '../../../test/helpers/lossyLine';

describe('a stream', () => {
  it.each([
    { loss: 0.01, reorder: 0, twice: 0 },
    { loss: 0.05, reorder: 0.05, twice: 0.05 },
    { loss: 0.2, reorder: 0.1, twice: 0.1 },
  ])('of 20,000 messages ends in the same state, with not one note hanging: %o', (weather) => {
    const { host, guest, heard, run, chance, setWeather } = lossyLine({ ...FAIR }, 20_261_126);
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
    const { host, heard, run, setWeather } = lossyLine({ ...FAIR }, 5);
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
    const { host, heard, run, setWeather, now } = lossyLine({ ...FAIR }, 5, 987_654_321_000);
    run(3000);
    const sentMs = now();
    host.send([[Uint8Array.of(0x90, 60, 100)]], sentMs);
    setWeather({});
    run(20);
    expect(heard.guest[0]!.timeMs).toBeCloseTo(sentMs + 987_654_321_000, 0);
  });

  it('keeps a SysEx of many packets whole, or leaves it out', () => {
    const { host, heard, run, setWeather } = lossyLine({ ...FAIR }, 3);
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
    const { host, guest, run, setWeather, ends } = lossyLine({ loss: 1, reorder: 0, twice: 0 }, 1);
    run(20_000);
    expect(host.state).toBe('control');
    expect(ends).toEqual(['guest does not answer']);
    setWeather({ loss: 0 });
    expect(guest.state).toBe('closed');
  });

  it('that falls silent is gone after seven seconds, where we asked; after half a minute, where it did', () => {
    const { host, guest, run, setWeather, ends } = lossyLine({ ...FAIR }, 1);
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
    const { guest, run, ends } = lossyLine({ ...FAIR }, 1);
    run(1000);
    guest.close();
    run(10);
    expect(ends).toEqual(['host left']);
  });

  it('believes no feedback on what it never sent, and no stream of another source', () => {
    const { host, guest, heard, run, now } = lossyLine({ ...FAIR }, 1);
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
    const { guest, heard, run, now } = lossyLine({ ...FAIR }, 1);
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
