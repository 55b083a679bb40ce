import { Socket } from 'node:dgram';
import { pino } from 'pino';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import { addLightPoints } from '../../core/inputs/lightPoints';
import { applyEdit } from '../../core/rig/edit';
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
  const player = { rig, signals: { find: () => 0, idOf: () => 'level' }, outputs: { loops: { received: () => 1 } }, incoming: { sample: (_number: number, _timeMs: number, value: number) => played.push(value) } } as unknown as Player;
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

it.each([
  ['hold', []],
  ['rest', ['1-x 0.5', '1-y 0.5', '1-size 0']],
] as const)('light points of a sender that says nothing any more are in view no longer, once: a lost point %ss', (lost, atRest) => {
  const made = applyEdit(testRig([]), { kind: 'change', changes: addLightPoints(testRig([]), '/lamps/points', lost) });
  if (!made.ok) throw new Error(made.message);
  const rig = made.document;
  const played: string[] = [];
  const player = { rig, signals: { find: (id: string) => rig.signals.findIndex((signal) => signal.id === id), idOf: (i: number) => rig.signals[i]?.id }, outputs: { loops: { received: () => 1 } }, incoming: { sample: (i: number, _timeMs: number, value: number) => played.push(`${rig.signals[i]!.source!.replace(/^point /, '').replace(' ', '-')} ${value}`) } } as unknown as Player;
  const intake = new Intake(player, () => undefined);
  intake.rigChanged();
  const points = new PointsInputs(player, intake);
  points.rigChanged();
  const osc = new OscInput(player, intake, points, pino({ level: 'silent' }), () => undefined, () => undefined);
  const say = (...numbers: number[]) => {
    osc['receive'](encodeOsc('/lamps/points', numbers.map((value) => ({ type: 'f', value }))), '127.0.0.1', 9000);
    return played.splice(0);
  };
  const passes = (ms: number) => {
    vi.advanceTimersByTime(ms);
    return played.splice(0);
  };
  expect(say(0.25, 0.75, 0.5)).toEqual(['1-x 0.25', '1-y 0.75', '1-size 0.5', '1-seen 1']);
  expect(passes(900)).toEqual([]);
  say(0.25, 0.75, 0.5);
  expect(passes(900)).toEqual([]);
  expect(passes(200)).toEqual([...atRest, '1-seen 0']);
  expect(passes(10_000)).toEqual([]);
  // It is back, and goes by itself this time.
  expect(say(0.25, 0.75, 0.5).at(-1)).toBe('1-seen 1');
  expect(say()).toEqual([...atRest, '1-seen 0']);
  expect(passes(10_000)).toEqual([]);
  osc.close();
  points.close();
});

it('where a system gives no such large buffer, it listens with what there is, and says how much that is', async () => {
  const refused = vi.spyOn(Socket.prototype, 'setRecvBufferSize').mockImplementation(() => {
    throw Object.assign(new Error('Could not get or set buffer size: uv_recv_buffer_size returned ENOBUFS'), { code: 'ERR_SOCKET_BUFFER_SIZE' });
  });
  const player = { rig: testRig([]), outputs: { loops: { received: () => 1 } } } as unknown as Player;
  const intake = new Intake(player, () => undefined);
  const osc = new OscInput(player, intake, new PointsInputs(player, intake), pino({ level: 'silent' }), () => undefined, () => undefined);
  await osc.set({ oscPorts: [0], oscSenders: ['127.0.0.1'], oscRules: [] });
  expect(osc.portStates).toEqual([{ port: 0, problem: null, askedBufferBytes: expect.any(Number) as number, bufferBytes: expect.any(Number) as number }]);
  expect(refused).toHaveBeenCalledOnce();
  refused.mockRestore();
  osc.close();
});
