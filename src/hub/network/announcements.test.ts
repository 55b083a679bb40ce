import { expect, it, vi } from 'vitest';
import { announcedName, Announcements } from './announcements';

const network = vi.hoisted(() => ({ published: [] as string[], open: 0 }));
vi.mock('bonjour-service', () => ({
  Bonjour: class {
    readonly server = { mdns: { on: () => undefined } };
    constructor() {
      network.open++;
    }
    publish = ({ name }: { name: string }) => network.published.push(name);
    find = () => ({ services: [], on: () => undefined, expire: () => undefined, update: () => undefined });
    unpublishAll = (done: () => void) => done();
    destroy = () => network.open--;
  },
}));

it('what is announced is said anew with the addresses that this computer has once they are others: a network came, or is another', () => {
  vi.useFakeTimers();
  let addresses = '';
  const announcements = new Announcements(null, () => undefined, () => addresses);
  announcements.start([{ name: 'Night Ferry', port: 5004 }]);
  vi.advanceTimersByTime(10_000);
  expect([network.published.splice(0), network.open]).toEqual([['Night Ferry'], 1]);
  addresses = '192.168.1.20';
  vi.advanceTimersByTime(3000);
  expect([network.published.splice(0), network.open]).toEqual([['Night Ferry'], 1]);
  announcements.stop();
  addresses = '10.0.0.7';
  vi.advanceTimersByTime(10_000);
  expect([network.published, network.open]).toEqual([[], 0]);
  vi.useRealTimers();
});

it.each([
  ['Night Ferry', 'vm', 'Night Ferry on vm'],
  ['Night Ferry', 'wheelhouse.local', 'Night Ferry on wheelhouse'],
  ['Ferry 2.0', 'wheelhouse.lan.example', 'Ferry 2-0 on wheelhouse'],
])('%s at %s is announced as %s: a dot would begin another label (RFC 1035)', (session, host, name) => expect(announcedName(session, host)).toBe(name));
it.each(['Fähre', '渡し船', 'x', '🚢'])('a long name of %s is a label of at most 63 octets that ends with a whole letter (RFC 1035, 2.3.4)', (word) => {
  const name = announcedName(word.repeat(70), 'wheelhouse');
  const octets = Buffer.from(name);
  expect(octets.length).toBeLessThanOrEqual(63);
  expect(octets.length).toBeGreaterThan(59);
  expect(octets.toString()).toBe(name);
  expect(word.repeat(70).startsWith(name)).toBe(true);
});
