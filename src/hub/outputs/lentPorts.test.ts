import { expect, it } from 'vitest';
import type { LentIdentity } from '../../protocol/live';
import { LentPorts } from './lentPorts';

const [HORN, BELL] = ['Horn', 'Bell'].map((report, number) => ({ report, slot: 1, number })) as [LentIdentity, LentIdentity];
const named = ({ report, slot }: LentIdentity) => ({ report, slot });

function made() {
  const lent = new LentPorts();
  const states: (string | null)[] = [];
  const client = () => {
    const written: string[] = [];
    return { written, write: (port: number, bytes: Uint8Array) => void written.push(`${port} ${[...bytes].join(' ')}`) };
  };
  return { lent, states, client, want: () => lent.want(named(HORN), (away) => states.push(away)) };
}

it('is away until a page lends it, and again when that page goes', () => {
  const { lent, states, client, want } = made();
  const horn = want();
  const first = client();
  lent.lend(first, [BELL, HORN]);
  horn.send(Uint8Array.of(0x90, 60, 90));
  expect(first.written).toEqual(['0 144 60 90']);
  expect(lent.there).toEqual([BELL, HORN].map(named));
  lent.lend(first, []);
  horn.send(Uint8Array.of(0x80, 60, 64));
  expect(first.written).toHaveLength(1);
  expect(states.map((away) => away === null)).toEqual([false, true, false]);
});

it('stays with the page that lent it first, finds it in a list that changed, and goes to the other when that page goes', () => {
  const { lent, states, client, want } = made();
  const horn = want();
  const [first, second] = [client(), client()];
  lent.lend(first, [HORN]);
  lent.lend(second, [HORN]);
  lent.lend(first, [BELL, HORN]);
  horn.send(Uint8Array.of(0xf8));
  expect([first.written, second.written]).toEqual([['0 248'], []]);
  const before = states.length;
  lent.lend(first, []);
  horn.send(Uint8Array.of(0xf8));
  expect(second.written).toEqual(['0 248']);
  // It was away in between, so that what it holds is said again.
  expect(states.slice(before).map((away) => away === null)).toEqual([false, true]);
});

it('is away in between where its port went and came back in one word of the page', () => {
  const { lent, states, client, want } = made();
  want();
  const first = client();
  lent.lend(first, [HORN]);
  lent.lend(first, [{ ...HORN, number: 7 }]);
  expect(states.map((away) => away === null)).toEqual([false, true, false, true]);
});
