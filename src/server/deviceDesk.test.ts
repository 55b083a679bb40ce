import { beforeEach, describe, expect, it } from 'vitest';
import { JOIN } from '../protocol/devices';
import { DeviceDesk } from './deviceDesk';
import type { DeviceRepository, StoredDevice } from './storage/deviceRepository';

let nowMs: number;
let stored: StoredDevice[];
let told: number;
let desk: DeviceDesk;

beforeEach(async () => {
  [nowMs, stored, told] = [1_000_000, [], 0];
  const repository = {
    list: () => Promise.resolve([...stored]),
    create: (device: StoredDevice) => Promise.resolve(void stored.push(device)),
    remove: (id: string) => Promise.resolve(void (stored = stored.filter((device) => device.id !== id))),
  };
  const settings = { setting: () => Promise.resolve('on'), saveSetting: () => Promise.resolve() };
  desk = new DeviceDesk(settings, repository as unknown as DeviceRepository, () => Promise.resolve(void told++), () => nowMs);
  await desk.open();
});

const join = async (code: string, address = 'here', name = 'Tablet') => {
  await desk.mustMayTry(address);
  return desk.join({ code, name, width: 800, height: 600 }, address);
};
const wrong = (code: string) => (code === '000000' ? '000001' : '000000');

describe('a code', () => {
  it('lets devices in until its minutes are over', async () => {
    const { code, untilMs } = desk.makeCode('wheelhouse', 2);
    expect(code).toMatch(/^\d{6}$/);
    nowMs = untilMs - 1;
    await expect(join(`${code.slice(0, 3)} ${code.slice(3)}`)).resolves.toMatchObject({ device: { surface: 'wheelhouse' } });
    nowMs = untilMs;
    await expect(join(code)).rejects.toThrow('No code is valid now');
    expect(desk.code).toBeNull();
  });
  it('is gone after so many wrong guesses, from wherever they come, and when another is made', async () => {
    const { code } = desk.makeCode(null);
    for (let i = 0; i < JOIN.wrongGuesses; i++) await expect(join(wrong(code), `device ${i}`)).rejects.toThrow('not the code');
    await expect(join(code, 'another')).rejects.toThrow('No code is valid now');
    const second = desk.makeCode(null);
    const third = desk.makeCode(null);
    if (second.code !== third.code) await expect(join(second.code, 'one more')).rejects.toThrow('not the code');
  });
  it('lets in as many devices as the host said, one unless changed', async () => {
    const one = desk.makeCode(null);
    expect(one.admits).toBe(1);
    await join(one.code);
    await expect(join(one.code, 'another')).rejects.toThrow('No code is valid now');
    const three = desk.makeCode(null, 3);
    const tries = await Promise.allSettled(Array.from({ length: 5 }, (_, i) => join(three.code, `device ${i}`)));
    expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveLength(3);
    expect(desk.code).toBeNull();
  });
  it('gives a device that has joined before no second place', async () => {
    const { device } = await join(desk.makeCode('wheelhouse').code);
    const again = await desk.join({ code: desk.makeCode('chart-table').code, name: 'Tablet', width: 800, height: 600 }, 'here', device);
    expect(desk.devices.map(({ id, name, surface }) => [id, name, surface])).toEqual([[again.device.id, 'Tablet', 'chart-table']]);
  });
  it('is gone when the network is switched off', async () => {
    desk.makeCode(null);
    await desk.setLan(false);
    expect([desk.code, desk.lan]).toEqual([null, false]);
  });
});

describe('a token', () => {
  it('is known to its device alone, and good until that is dropped', async () => {
    const { token, device } = await join(desk.makeCode('wheelhouse').code);
    expect(JSON.stringify([stored, desk.devices, desk.leaves])).not.toContain(token);
    expect(desk.devices[0]).not.toHaveProperty('tokenHash');
    expect([desk.find(token)?.id, desk.find(null), desk.find('made up')]).toEqual([device.id, null, null]);
    await desk.drop(device.id);
    expect([desk.find(token), told]).toEqual([null, 2]);
  });
});
