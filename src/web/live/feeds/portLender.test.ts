import { expect, it } from 'vitest';
import type { FromClient } from '../../../protocol/live';
import type { LiveConnection } from '../connection';
import { PortLender } from './portLender';

function made() {
  const told: FromClient[] = [];
  const on = { status: () => undefined as void, written: (...of: [port: number, bytes: Uint8Array]): void => void of };
  const live = {
    status: 'open',
    state: { listen: (listener: () => void) => ((on.status = listener), () => undefined) },
    store: { written: { listen: (_: string, listener: typeof on.written) => ((on.written = listener), () => undefined) } },
    tell: (message: FromClient) => told.push(message),
  };
  const sent: string[] = [];
  const port = (name: string) => ({ name, send: (bytes: Uint8Array) => void sent.push(`${name} ${[...bytes].join(' ')}`) });
  const lender = new PortLender(live as unknown as LiveConnection);
  const turn = (status: string) => {
    live.status = status;
    on.status();
  };
  return { lender, told, sent, port, turn, write: (at: number, ...bytes: number[]) => on.written(at, Uint8Array.from(bytes)) };
}

it('lends ports by what they say of themselves, two alike told apart, and says so again when the line is back', () => {
  const { lender, told, port, turn } = made();
  lender.lend([port('Horn'), port('Horn'), port('Bell')]);
  const said = { kind: 'lend', ports: [{ report: 'Horn', slot: 1, number: 0 }, { report: 'Horn', slot: 2, number: 1 }, { report: 'Bell', slot: 1, number: 2 }] };
  expect(told).toEqual([said]);
  turn('lost');
  turn('open');
  expect(told).toEqual([said, said]);
});

it('writes to the port that is meant, and to none that is not there', () => {
  const { lender, sent, port, write } = made();
  lender.lend([port('Horn'), port('Bell')]);
  write(1, 0xb0, 7, 64);
  write(5, 0xb0, 7, 64);
  expect(sent).toEqual(['Bell 176 7 64']);
});

it('ends what sounds where the line goes down, or the page, and nothing twice', () => {
  const { lender, sent, port, turn, write } = made();
  lender.lend([port('Horn')]);
  write(0, 0x92, 60, 90);
  write(0, 0x92, 62, 90);
  write(0, 0x82, 62, 64);
  sent.length = 0;
  turn('lost');
  expect(sent).toEqual(['Horn 130 60 64']);
  lender.close();
  expect(sent).toEqual(['Horn 130 60 64']);
});

it('lifts pedals that hold notes with them, and no other controller', () => {
  const { lender, sent, port, turn, write } = made();
  lender.lend([port('Horn')]);
  for (const bytes of [[0xb0, 64, 127], [0xb3, 69, 1], [0xb3, 66, 127], [0xb3, 66, 0], [0xb0, 67, 127], [0xb0, 7, 127], [0x90, 64, 1]]) write(0, ...bytes);
  sent.length = 0;
  turn('lost');
  expect(sent).toEqual(['Horn 176 64 0', 'Horn 179 69 0', 'Horn 128 64 64']);
});

it('goes on with the others where one fails while it is written to', () => {
  const { lender, sent, port, write } = made();
  lender.lend([{ name: 'Gone', send: () => { throw new Error('InvalidStateError'); } }, port('Bell')]);
  write(0, 0x90, 60, 90);
  write(1, 0x90, 60, 90);
  expect(sent).toEqual(['Bell 144 60 90']);
});

it('writes what was on its way to a port that has gone to none, not to the one in its place', () => {
  const { lender, sent, told, port, write } = made();
  const [horn, bell] = [port('Horn'), port('Bell')];
  lender.lend([horn, bell]);
  lender.lend([bell]);
  write(0, 0x90, 60, 90);
  expect(sent).toEqual([]);
  lender.lend([port('Horn'), bell]);
  expect(told.at(-1)).toEqual({ kind: 'lend', ports: [{ report: 'Horn', slot: 1, number: 2 }, { report: 'Bell', slot: 1, number: 1 }] });
  write(1, 0x90, 60, 90);
  expect(sent).toEqual(['Bell 144 60 90']);
});
