import { describe, expect, it } from 'vitest';
import { BY_PANIC, BY_SCENE, BY_THRU, KEEP } from '../../core/engine/sink';
import { hexOf } from '../../core/midi/describe';
import type { RigOutput } from '../../core/outputs/kinds';
import type { Fact } from '../../protocol/frames';
import { Audience } from '../audience';
import { OPENING } from '../../protocol/live';
import type { Watcher } from '../watcher';
import { OutputDesk } from './desk';
import type { Outgoing } from './outgoing';
import type { SinkEvents } from './sink';
import { memoryStore, SoundingBook } from './soundingBook';

const standIn = (id: string, more: object = {}): RigOutput => ({ id, name: id, kind: 'standIn', receiver: 'r', ...more });
const osc = (id: string, port = 9000): RigOutput => ({ id, name: id, kind: 'osc', host: '127.0.0.1', port, receiver: 'r' });

/** A desk whose ports are lists in memory. */
function made(store = memoryStore()) {
  const log: string[] = [];
  const facts: Fact[] = [];
  const audience = new Audience();
  const says = new Map<string, SinkEvents['state']>();
  let away: string | null = null;
  const desk = new OutputDesk(new SoundingBook(store), audience, (mapping) => 100 + mapping, (output, { state }) => {
    log.push(`open ${output.id}`);
    says.set(output.id, state);
    if (away !== null) state(away);
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
  return { desk, send, watch, store, state: (output: string, why: string | null) => says.get(output)!(why), opensAway: (why: string | null) => (away = why), take: () => log.splice(0), left: () => log.splice(0).map((line) => line.split(' at ')[0]) };
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
  it('lets go of bends and pressure where Pumice stops, after the notes, and not at an output that is muted', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a'), standIn('b'), osc('o')]);
    for (const hex of ['E1 00 60', '91 3C 40', 'D1 20', 'B1 07 30']) send('a', hex);
    send('b', 'E0 00 60');
    desk.open([standIn('a'), standIn('b', { muted: true }), osc('o')]);
    left();
    desk.close();
    expect(left()).toEqual(['a midi 81 3C 40', 'a midi E1 00 40', 'a midi D1 00', 'close a', 'close b', 'close o']);
  });
  it('lets nothing leave once it is closed: a finger that comes down while Pumice stops begins no note that nobody would end', () => {
    const { desk, send, left, store } = made();
    desk.open([standIn('a'), osc('o')]);
    send('a', '90 3C 40');
    send('a', '80 3C 40');
    left();
    desk.close();
    expect(left()).toEqual(['close a', 'close o']);
    send('a', '90 3C 40');
    desk.osc('o', 0, Uint8Array.of(47), KEEP);
    desk.oscVoice('o', 0, Uint8Array.of(47), 'voice', Uint8Array.of(47));
    desk.open([standIn('a'), standIn('b')]);
    send('b', '90 3C 40');
    desk.closeOthers([]);
    expect(left()).toEqual([]);
    expect(store.bits.every((bits) => bits === 0)).toBe(true);
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
  it('lifts the pedals that hold notes wherever it ends notes: an output that goes, a hub that stops, one that died', () => {
    const store = memoryStore();
    const { desk, send, left } = made(store);
    const filter = { channels: [1], kinds: ['notes' as const] };
    desk.open([standIn('a'), standIn('b'), standIn('c'), standIn('d')]);
    for (const id of ['a', 'b', 'c', 'd']) send(id, 'B0 40 7F');
    send('a', 'B0 43 7F');
    left();
    // A filter that would not let it down any more lets it up.
    desk.open([standIn('b', { filter })]);
    desk.closeOthers([standIn('b', { filter }), standIn('c'), standIn('d')]);
    desk.open([standIn('c', { bytesPerS: 3125 })]);
    expect(left()).toEqual(['a midi B0 40 00', 'close a', 'c midi B0 40 00', 'close c', 'open c', 'c midi B0 40 7F']);
    const next = made(store);
    next.desk.open([standIn('d')]);
    expect(next.left()).toEqual(['open d', 'd midi B0 40 00']);
    desk.close();
    expect(left().filter((line) => line?.includes('midi'))).toEqual(['b midi B0 40 00', 'c midi B0 40 00']);
    expect(store.bits.every((bits) => bits === 0)).toBe(true);
  });
  it('says a pedal again that stayed down while its output was muted, and not one that came up', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a')]);
    send('a', 'B0 40 7F');
    send('a', 'B1 40 7F');
    left();
    desk.open([standIn('a', { muted: true })]);
    expect(left()).toEqual(['a midi B0 40 00', 'a midi B1 40 00']);
    send('a', 'B1 40 00');
    desk.open([standIn('a')]);
    expect(left()).toEqual(['a midi B0 40 7F', 'a midi B1 40 00']);
    desk.panic(() => undefined);
    expect(left()).toEqual(['a midi B0 40 00']);
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
  it('ends a voice of OSC once, and before its output is muted, leads elsewhere or goes', () => {
    const { desk, left } = made();
    const begin = (voice: number) => desk.oscVoice('o', 0, Uint8Array.of(0x2f, voice), `/hull ${voice}`, Uint8Array.of(0x2f, 0x80 + voice));
    const end = (voice: number) => desk.oscVoice('o', 0, Uint8Array.of(0x2f, 0x40 + voice), `/hull ${voice}`, null);
    desk.open([osc('o')]);
    left();
    begin(1);
    begin(2);
    end(1);
    end(1);
    expect(left()).toEqual(['o osc 2F 01', 'o osc 2F 02', 'o osc 2F 41']);
    desk.open([{ ...osc('o'), muted: true }]);
    end(2);
    begin(3);
    end(3);
    expect(left()).toEqual(['o osc 2F 82']);
    desk.open([osc('o')]);
    begin(4);
    left();
    desk.open([osc('o', 9001)]);
    expect(left()).toEqual(['o osc 2F 84', 'close o', 'open o']);
    begin(5);
    left();
    expect(desk.panic(() => undefined)).toBe(1);
    expect(left()).toEqual(['o osc 2F 85']);
    begin(6);
    left();
    desk.closeOthers([]);
    expect(left()).toEqual(['o osc 2F 86', 'close o']);
  });
  it('lifts a pedal of OSC before its output is muted, and counts it as no note', () => {
    const { desk, left } = made();
    const pedal = (value: number) => desk.oscVoice('o', 0, Uint8Array.of(0x2f, value), '/hull/pedal 64', value > 0 ? Uint8Array.of(0x2f, 0) : null);
    desk.open([osc('o')]);
    left();
    pedal(64);
    pedal(127);
    desk.open([{ ...osc('o'), muted: true }]);
    pedal(0);
    desk.open([osc('o')]);
    expect(left()).toEqual(['o osc 2F 40', 'o osc 2F 7F', 'o osc 2F 00']);
    pedal(127);
    desk.oscVoice('o', 0, Uint8Array.of(0x2f), '/hull/off 1', Uint8Array.of(0x2f));
    expect(desk.panic(() => undefined)).toBe(1);
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

describe('an output that goes and comes back', () => {
  it('is told the present values, the ends of what sounded when it went, and no old note', () => {
    const { desk, send, state, left } = made();
    desk.open([standIn('a')]);
    send('a', 'B0 07 10');
    send('a', '90 3C 40');
    send('a', '91 3D 40');
    left();
    state('a', 'is not here');
    send('a', 'B0 07 20');
    send('a', 'E0 00 60');
    send('a', '90 3E 40');
    send('a', '80 3E 40');
    send('a', '80 3C 40');
    expect(left()).toEqual([]);
    expect(desk.states).toEqual([{ id: 'a', away: 'is not here', missed: 5 }]);
    state('a', null);
    expect(left()).toEqual(['a midi 80 3C 40', 'a midi 81 3D 40', 'a midi B0 7B 00', 'a midi B1 7B 00', 'a midi B0 07 20', 'a midi E0 00 60']);
    send('a', '80 3C 40');
    expect(left()).toEqual([]);
    expect(desk.states).toEqual([{ id: 'a', away: null, missed: 5 }]);
  });
  it('misses nothing while it is only being opened', () => {
    const { desk, send, state, opensAway, left } = made();
    opensAway(OPENING);
    desk.open([standIn('a')]);
    send('a', 'C0 05');
    send('a', 'B0 01 10');
    left();
    state('a', null);
    expect(left()).toEqual(['a midi C0 05', 'a midi B0 01 10']);
    expect(desk.states[0]!.missed).toBe(0);
  });
  it('ends what an earlier hub left sounding once it is there', () => {
    const store = memoryStore();
    const first = made(store);
    first.desk.open([standIn('a')]);
    first.send('a', '90 40 40');
    const second = made(store);
    second.opensAway('is not here');
    second.desk.open([standIn('a')]);
    expect(second.left()).toEqual(['open a']);
    second.state('a', null);
    expect(second.left()).toEqual(['a midi 80 40 40']);
  });
  it('that was replaced says nothing for the one in its place', () => {
    const { desk, state, left } = made();
    desk.open([standIn('a')]);
    const late = (why: string | null) => state('a', why);
    left();
    desk.closeOthers([]);
    late('is not here');
    expect(desk.states).toEqual([]);
  });
  it('is told what it should hold when it leads elsewhere', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a')]);
    send('a', 'B0 07 10');
    left();
    desk.open([standIn('a', { bytesPerS: 3125 })]);
    expect(left()).toEqual(['close a', 'open a', 'a midi B0 07 10']);
  });
});

it('where things wait before they leave, an earlier hub may have died with the end of a note among them, or of a pedal: all end', () => {
  const { desk, left } = made();
  desk.open([standIn('a'), standIn('late', { delayMs: 500 }), standIn('slow', { bytesPerS: 3125 })]);
  const every = (output: string) => Array.from({ length: 16 }, (_, channel) => ['40', '42', '45', '7B'].map((controller) => `${output} midi B${channel.toString(16).toUpperCase()} ${controller} 00`)).flat();
  expect(left()).toEqual(['open a', 'open late', ...every('late'), 'open slow', ...every('slow')]);
});

describe('what is done with an output', () => {
  it('muted: notes end, nothing leaves, and it is told what it should hold when it is heard again', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a')]);
    send('a', '90 3C 40');
    left();
    desk.open([standIn('a', { muted: true })]);
    expect(left()).toEqual(['a midi 80 3C 40']);
    send('a', 'B0 07 20');
    send('a', '90 3E 40');
    expect(left()).toEqual([]);
    desk.open([standIn('a')]);
    expect(left()).toEqual(['a midi B0 7B 00', 'a midi B0 07 20']);
  });
  it('filtered: a note that began before the filter ends all the same', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a')]);
    send('a', '90 3C 40');
    desk.open([standIn('a', { filter: { without: ['notes'], withoutControllers: [7] } })]);
    left();
    send('a', '90 3E 40');
    send('a', 'B0 07 20');
    send('a', 'B0 08 20');
    send('a', '80 3C 40');
    send('a', '80 3E 40');
    expect(left()).toEqual(['a midi B0 08 20', 'a midi 80 3C 40']);
  });
  it('what sets it up leaves by another output, or not at all', () => {
    const { desk, send, left } = made();
    desk.open([standIn('a', { configuration: { to: 'b' } }), standIn('b'), standIn('c', { configuration: 'blocked' })]);
    left();
    for (const output of ['a', 'c']) for (const hex of ['C0 05', 'B0 65 00 B0 64 00 B0 06 02', 'B0 01 10', '90 3C 40']) send(output, hex);
    expect(left()).toEqual(['b midi C0 05', 'b midi B0 65 00 B0 64 00 B0 06 02', 'a midi B0 01 10', 'a midi 90 3C 40', 'c midi B0 01 10', 'c midi 90 3C 40']);
  });
});

it('Panic lifts every pedal that holds notes for good: it does not go down again where the output is back', () => {
  const { desk, send, left, state } = made();
  desk.open([standIn('a')]);
  send('a', 'B0 42 7F', 0);
  left();
  desk.panic(() => undefined);
  expect(left()).toEqual(['a midi B0 42 00']);
  state('a', 'is not here');
  state('a', null);
  expect(left()).not.toContain('a midi B0 42 7F');
});
it('Panic ends what sounds whoever began it, says how many that were, and leaves those that are away for later', () => {
  const { desk, send, state, left } = made();
  desk.open([standIn('a'), standIn('b')]);
  send('a', '90 3C 40', BY_THRU);
  send('a', '91 3D 40', 0);
  send('b', '92 3E 40', BY_SCENE);
  state('b', 'is not here');
  left();
  // The engine ends what it knows of; the rest is in the book.
  expect(desk.panic(() => send('a', '81 3D 40', BY_PANIC))).toBe(2);
  expect(left()).toEqual(['a midi 81 3D 40', 'a midi 80 3C 40']);
  expect(desk.panic(() => undefined)).toBe(0);
  state('b', null);
  expect(left()).toEqual(['b midi 82 3E 40', 'b midi B2 7B 00']);
});
