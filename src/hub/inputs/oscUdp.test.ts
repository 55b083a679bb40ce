import { pino } from 'pino';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import { encodeOsc } from '../../net/osc/codec';
import type { Player } from '../player';
import { Intake } from './intake';
import { OscInput } from './oscUdp';
import { PointsInputs } from './points';

/** Between the time of NTP, from 1900, and that of the calendar, from 1970 (RFC 868), s. */
const FROM_1900_TO_1970_S = 2_208_988_800;
/** The computer slept for so long since the hub began. */
const SLEPT_MS = 3_600_000;

vi.mock('../time', () => ({ hubTimeMs: () => Date.now() - SLEPT_MS, calendarMs: () => Date.now() }));
beforeEach(() => void vi.useFakeTimers({ now: 1_795_000_000_000 }));
afterEach(() => void vi.useRealTimers());

/** A bundle of one message that is meant for a moment of the calendar (OSC 1.0, "OSC Bundles"). */
function bundle(atMs: number, message: Uint8Array): Uint8Array {
  const head = Buffer.alloc(20);
  head.write('#bundle\0', 'latin1');
  head.writeUInt32BE(Math.floor(atMs / 1000) + FROM_1900_TO_1970_S, 8);
  head.writeUInt32BE(Math.floor(((atMs / 1000) % 1) * 2 ** 32), 12);
  head.writeUInt32BE(message.length, 16);
  return Buffer.concat([head, message]);
}

it('a bundle is played when the calendar says, also after the computer slept, when the clock of the hub is behind it', () => {
  const rig = { ...testRig([]), inputs: [{ id: 'in', name: 'Rope', kind: 'osc', device: { report: 'this computer /rope', slot: 1 } }], signals: [{ id: 'level', name: 'Level', input: 'in', kind: 'continuous', unit: 'unit', range: [0, 1], osc: { address: '/rope/level', argument: 0 } }] };
  const played: number[] = [];
  const player = { rig, signals: { find: () => 0, idOf: () => 'level' }, outputs: { loops: { received: () => 1 } }, sample: (_number: number, _timeMs: number, value: number) => played.push(value) } as unknown as Player;
  const intake = new Intake(player, () => undefined);
  intake.rigChanged();
  const osc = new OscInput(player, intake, new PointsInputs(player, intake), pino({ level: 'silent' }), () => undefined, () => undefined);
  const say = (atMs: number, value: number) => osc['receive'](bundle(atMs, encodeOsc('/rope/level', [{ type: 'f', value }])), '127.0.0.1', 9000);
  say(Date.now(), 0.25);
  expect(played).toEqual([0.25]);
  say(Date.now() + 200, 0.5);
  vi.advanceTimersByTime(150);
  expect(played).toEqual([0.25]);
  vi.advanceTimersByTime(60);
  expect(played).toEqual([0.25, 0.5]);
  say(Date.now() - 5000, 0.75);
  expect(played).toEqual([0.25, 0.5, 0.75]);
  osc.close();
});
