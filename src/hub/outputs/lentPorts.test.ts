import { expect, it } from 'vitest';
import { LentPorts } from './lentPorts';

const HORN = { report: 'Horn', slot: 1 };
const BELL = { report: 'Bell', slot: 1 };

function made() {
  const lent = new LentPorts();
  const states: (string | null)[] = [];
  const page = () => {
    const written: string[] = [];
    return { written, write: (port: number, bytes: Uint8Array) => void written.push(`${port} ${[...bytes].join(' ')}`) };
  };
  return { lent, states, page, want: () => lent.want(HORN, (away) => states.push(away)) };
}

it('is away until a page lends it, and again when that page goes', () => {
  const { lent, states, page, want } = made();
  const horn = want();
  const first = page();
  lent.lend(first, [BELL, HORN]);
  horn.send(Uint8Array.of(0x90, 60, 90));
  expect(first.written).toEqual(['1 144 60 90']);
  expect(lent.there).toEqual([BELL, HORN]);
  lent.lend(first, []);
  horn.send(Uint8Array.of(0x80, 60, 64));
  expect(first.written).toHaveLength(1);
  expect(states.map((away) => away === null)).toEqual([false, true, false]);
});

it('stays with the page that lent it first, finds it in a list that changed, and goes to the other when that page goes', () => {
  const { lent, states, page, want } = made();
  const horn = want();
  const [first, second] = [page(), page()];
  lent.lend(first, [HORN]);
  lent.lend(second, [HORN]);
  lent.lend(first, [BELL, HORN]);
  horn.send(Uint8Array.of(0xf8));
  expect([first.written, second.written]).toEqual([['1 248'], []]);
  const before = states.length;
  lent.lend(first, []);
  horn.send(Uint8Array.of(0xf8));
  expect(second.written).toEqual(['0 248']);
  // It was away in between, so that what it holds is said again.
  expect(states.slice(before).map((away) => away === null)).toEqual([false, true]);
});
