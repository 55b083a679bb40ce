import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import { hexOf } from '../../core/midi/describe';
import { memoryStore, SoundingBook } from '../outputs/soundingBook';
import { Player } from '../player';
import type { NativePorts, PortUser } from '../ports/nativePorts';
import { Intake } from './intake';
import { NativeMidi } from './nativeMidi';

const clock = vi.hoisted(() => ({ nowMs: 10_000 }));
vi.mock('../time', () => ({ hubTimeMs: () => clock.nowMs, calendarMs: () => clock.nowMs }));
beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const SENSING = [0xfe];
const at = { report: 'Hull keys', slot: 1 };

/** A keyboard at a port of this computer: a key and its pedal are mapped, and notes and bends go through on channel 9. */
function keyboard() {
  const rig = testRig([{ signal: 'key', message: { kind: 'note', channel: 1, note: 48, velocity: 100 } }, { signal: 'pedal', message: { kind: 'controlChange', channel: 3, controller: 64, range: [0, 127] } }]);
  rig.inputs.push({ id: 'hull', name: 'Hull keys', kind: 'midi', device: at, thru: { output: 'weather', channels: [1, 2], kinds: ['notes', 'bend'], channel: 9 } });
  rig.signals.push({ id: 'key', name: 'Key', input: 'hull', kind: 'gate', unit: 'unit', range: [0, 1], source: 'note 1 60' });
  rig.signals.push({ id: 'pedal', name: 'Pedal', input: 'hull', kind: 'continuous', unit: 'count', range: [0, 127], source: 'cc 1 64' });
  const player = new Player(new SoundingBook(memoryStore()));
  const sent: string[] = [];
  vi.spyOn(player.leaving, 'midi').mockImplementation((_output, _by, bytes, length) => void sent.push(hexOf(bytes.slice(0, length))));
  player.load(rig, 1, false, {});
  const found: string[] = [];
  const intake = new Intake(player, (of) => void found.push(...of.flatMap(({ sources }) => sources.map(({ key }) => key))));
  intake.rigChanged();
  let user: PortUser | null = null;
  const ports = { usable: true, inputs: [at], want: (_: unknown, wants: PortUser) => ((user = wants), { send: () => undefined, close: () => undefined }) };
  const native = new NativeMidi(ports as unknown as NativePorts, player, intake);
  native.changed();
  user!.state(null);
  return {
    native,
    player,
    found,
    streamOf(source: string) {
      player.load({ ...rig, streams: [{ id: 'hull-notes', name: 'Hull, notes', input: 'hull', source }] }, 2, false, {});
      intake.rigChanged();
      native.rigChanged();
    },
    remark: () => intake.state()[0]?.remark,
    sent: () => sent.splice(0),
    hear: (...messages: number[][]) => messages.forEach((bytes) => user!.heard!(Uint8Array.from(bytes))),
    /** Time passes, and the hub is there all the time. */
    pass(ms: number) {
      for (let i = 0; i < ms; i += 10) {
        clock.nowMs += 10;
        vi.advanceTimersByTime(10);
      }
    },
  };
}

describe('a keyboard at a port', () => {
  it('that stops to say that it is there ends all that it holds, and says what may be the matter (MIDI 1.0, Active Sensing)', () => {
    const { hear, pass, sent, remark } = keyboard();
    hear(SENSING, [0x90, 60, 80], [0xe0, 0, 96]);
    expect(sent()).toEqual(['90 30 64', '98 3C 50', 'E8 00 60']);
    for (let i = 0; i < 10; i++) {
      pass(270);
      hear(SENSING);
    }
    expect([sent(), remark()]).toEqual([[], null]);
    pass(1300);
    expect(sent().sort()).toEqual(['80 30 40', '88 3C 40', 'E8 00 40']);
    expect(remark()).toContain('see to its cable');
    hear([0x80, 60, 0], SENSING, [0x90, 60, 80]);
    expect([sent(), remark()]).toEqual([['90 30 64', '98 3C 50'], null]);
  });
  it('that never said so may be silent for as long as it likes', () => {
    const { hear, pass, sent } = keyboard();
    hear([0x90, 60, 80]);
    sent();
    pass(60_000);
    expect(sent()).toEqual([]);
  });
  it('is not missed by a hub that was held up itself', () => {
    const { hear, pass, sent } = keyboard();
    hear(SENSING, [0x90, 60, 80]);
    pass(200);
    sent();
    clock.nowMs += 5000;
    pass(900);
    hear(SENSING);
    pass(900);
    expect(sent()).toEqual([]);
  });
  it('of many channels fills the rig with none of what is put back on them, reset or unplugged', () => {
    const { native, found, hear, pass } = keyboard();
    // A lower zone of 15 members, RP-053.
    hear([0xb0, 101, 0], [0xb0, 100, 6], [0xb0, 6, 15]);
    hear([0xe1, 0, 96], [0x91, 62, 80], [0xd1, 40], [0xe2, 0, 96], [0x92, 64, 80], [0xb0, 121, 0], [0xb1, 121, 0], [0xb1, 123, 0], [0xe2, 0, 80]);
    native.close();
    pass(1000);
    expect(found.filter((key) => !key.startsWith('rpn') && !key.endsWith(' 121') && !key.endsWith(' 123'))).toEqual([]);
  });
  it('lifts a pedal of its stream now, and not when it was last heard: the delay that is shown is no minute', () => {
    const { player, streamOf, hear, pass } = keyboard();
    streamOf('channel 1');
    const pedal = vi.spyOn(player.incoming, 'pedal');
    hear([0xb0, 64, 127]);
    pass(60_000);
    streamOf('channel 2');
    expect(pedal.mock.calls.map(([, timeMs, controller, value]) => [clock.nowMs - timeMs, controller, value])).toEqual([[60_000, 64, 127], [0, 64, 0]]);
  });
  it('that is unplugged lets go of all that it holds, its pedal too, and is not missed once more', () => {
    const { native, hear, pass, sent } = keyboard();
    hear(SENSING, [0x90, 60, 80], [0xb0, 64, 127]);
    expect(sent()).toContain('B2 40 7F');
    native.close();
    expect(sent().sort()).toEqual(['80 30 40', '88 3C 40', 'B2 40 00']);
    pass(5000);
    expect([sent(), vi.getTimerCount()]).toEqual([[], 0]);
  });
});
