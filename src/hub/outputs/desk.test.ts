import { describe, expect, it } from 'vitest';
import { BY_PANIC, BY_SCENE, BY_THRU, KEEP } from '../../core/engine/sink';
import { hexOf } from '../../core/midi/describe';
import type { RigOutput } from '../../core/rig/document';
import type { Fact } from '../../protocol/frames';
import { Audience } from '../audience';
import type { Watcher } from '../watcher';
import { OutputDesk } from './desk';
import type { Outgoing } from './outgoing';
import { memoryStore, SoundingBook } from './soundingBook';

const standIn = (id: string, more: object = {}): RigOutput => ({ id, name: id, kind: 'standIn', receiver: 'r', ...more });
const osc = (id: string, port = 9000): RigOutput => ({ id, name: id, kind: 'osc', host: '127.0.0.1', port, receiver: 'r' });

/** A desk whose ports are lists in memory. */
function made(store = memoryStore()) {
  const log: string[] = [];
  const facts: Fact[] = [];
  const audience = new Audience();
  const desk = new OutputDesk(new SoundingBook(store), audience, (mapping) => 100 + mapping, (output) => {
    log.push(`open ${output.id}`);
    return {
      takes: output.kind === 'osc' ? 'osc' : 'midi',
      mayComeBack: output.kind === 'osc',
      send: ({ output: to, kind, bytes, atMs, address, by }: Outgoing) => void log.push(`${to} ${kind} ${hexOf(bytes)} at ${atMs} address ${address} by ${by}`),
      close: () => void log.push(`close ${output.id}`),
    };
  });
  const send = (output: string, hex: string, by = 0, address = KEEP) => {
    const bytes = Uint8Array.from(hex.split(' '), (byte) => parseInt(byte, 16));
    desk.midi(output, by, bytes, bytes.length, address);
  };
  const watch = () => {
    audience.add({ monitor: true, captures: false, fact: (fact: Fact) => facts.push(fact), close: () => undefined } as unknown as Watcher);
    return facts;
  };
  return { desk, send, watch, store, take: () => log.splice(0), left: () => log.splice(0).map((line) => line.split(' at ')[0]) };
}

describe('the output desk', () => {
  it('says of everything that leaves where, what, when it is due, for which address and who', () => {
    const { desk, send, take } = made();
    desk.open([standIn('a')]);
    take();
    desk.atMs = 12.5;
    send('a', 'B0 07 40', 3, 9);
    expect(take()).toEqual(['a midi B0 07 40 at 12.5 address 9 by 3']);
  });
  it('lets a note end once, whoever began it and whoever ends it', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a'), standIn('b')]);
    left();
    send('a', '90 3C 40', BY_THRU);
    send('b', '80 3C 40', BY_SCENE);
    send('a', '80 3C 40', BY_SCENE);
    send('a', '80 3C 40', BY_THRU);
    send('a', '90 3C 00', 0);
    expect(left()).toEqual(['a midi 90 3C 40', 'a midi 80 3C 40']);
  });
  it('ends what sounds before an output goes or leads elsewhere, and keeps one whose name changed', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a'), standIn('b')]);
    send('a', '92 3C 40');
    send('b', '93 3D 40');
    left();
    desk.open([standIn('a', { name: 'Other name', receiver: 's' }), standIn('b', { bytesPerS: 3125 })]);
    expect(left()).toEqual(['b midi 83 3D 40', 'close b', 'open b']);
    desk.closeOthers([]);
    expect(left()).toEqual(['a midi 82 3C 40', 'close a', 'close b']);
  });
  it('ends what an earlier hub left sounding, as soon as its output opens', () => {
    const store = memoryStore();
    const first = made(store);
    first.desk.open([standIn('a')]);
    first.send('a', '90 40 40');
    const second = made(store);
    second.desk.open([standIn('a')]);
    expect(second.left()).toEqual(['open a', 'a midi 80 40 40']);
    const third = made(store);
    third.desk.open([standIn('a')]);
    expect(third.left()).toEqual(['open a']);
  });
  it('gives an output nothing that it does not take, nor anything to one that is not there', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a'), osc('o')]);
    left();
    send('o', 'B0 07 40');
    send('gone', 'B0 07 40');
    desk.osc('a', 0, Uint8Array.of(0x2f, 0x61), 0);
    desk.osc('o', 0, Uint8Array.of(0x2f, 0x61), 0);
    expect(left()).toEqual(['o osc 2F 61']);
  });
  it('shows each message of several that belong together to whoever watches, with who it was', () => {
    const { desk, send, watch } = made();
    desk.open([standIn('a')]);
    const facts = watch();
    send('a', 'B0 01 40 B0 21 00', 5, 0);
    send('a', 'B0 78 00', BY_PANIC);
    expect(facts.map((fact) => fact.direction === 'out' && [fact.who, fact.mapping, hexOf(fact.bytes)])).toEqual([
      ['mapping', 105, 'B0 01 40'],
      ['mapping', 105, 'B0 21 00'],
      ['panic', null, 'B0 78 00'],
    ]);
    expect(desk.messagesOut).toBe(3);
  });
  it('keeps no bytes of a message: what was shown stays what it was', () => {
    const { desk, send, watch } = made();
    desk.open([standIn('a')]);
    const facts = watch();
    send('a', 'B0 07 01');
    send('a', 'B0 07 02');
    expect(facts.map((fact) => fact.direction === 'out' && hexOf(fact.bytes))).toEqual(['B0 07 01', 'B0 07 02']);
  });
  it('carries a message that is longer than most', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a')]);
    left();
    const sysEx = ['F0', ...Array.from({ length: 200 }, () => '11'), 'F7'].join(' ');
    send('a', sysEx);
    expect(left()).toEqual([`a midi ${sysEx}`]);
  });
  it('measures the delay of what leaves first of all that was made of one moment, and of nothing else', () => {
    const { desk, send } = made();
    desk.open([standIn('a')]);
    send('a', 'B0 07 01');
    expect(desk.delay.take()).toEqual({ p50Ms: null, p99Ms: null });
    desk.causedMs = performance.timeOrigin + performance.now() - 50;
    send('a', 'B0 07 02');
    send('a', 'B0 07 03');
    const { p50Ms } = desk.delay.take();
    expect(p50Ms! >= 50 && p50Ms! < 5000).toBe(true);
  });
});
