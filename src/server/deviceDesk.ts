import { randomInt, randomUUID } from 'node:crypto';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { freeName } from '../core/rig/naming';
import { JOIN, type DeviceLeave, type JoinCode, type JoinedDevice, type JoinRequest } from '../protocol/devices';
import { ProblemError } from '../protocol/problem';
import { hashToken, makeToken } from '../net/token';
import type { DeviceRepository, StoredDevice } from './storage/deviceRepository';
import type { RigRepository } from './storage/rigRepository';

const LAN = 'lan';
const DIGITS = 6;

/** Who may come in from the network: the switch, the code that lets devices in for a while, and those that have joined. */
export class DeviceDesk {
  private stored: StoredDevice[] = [];
  private byHash = new Map<string, StoredDevice>();
  private lanOn = false;
  private given: (JoinCode & { wrongGuesses: number }) | null = null;
  private readonly tries = new RateLimiterMemory({ points: JOIN.triesPerMinute, duration: 60 });

  constructor(
    private readonly settings: Pick<RigRepository, 'setting' | 'saveSetting'>,
    private readonly repository: DeviceRepository,
    /** Told after every change of what the hub and the doors must know; ends when the doors are as they should be. */
    private readonly onChange: () => Promise<void>,
    private readonly nowMs: () => number,
  ) {}

  /** Reads what was there before. */
  async open(): Promise<void> {
    this.lanOn = (await this.settings.setting(LAN)) === 'on';
    await this.read();
  }

  get lan(): boolean {
    return this.lanOn;
  }

  async setLan(on: boolean): Promise<void> {
    await this.settings.saveSetting(LAN, on ? 'on' : 'off');
    this.lanOn = on;
    if (!on) this.given = null;
    await this.onChange();
  }

  get devices(): JoinedDevice[] {
    return this.stored.map(({ id, name, surface, width, height, joinedAtMs }) => ({ id, name, surface, width, height, joinedAtMs }));
  }

  /** What the hub lets in. */
  get leaves(): DeviceLeave[] {
    return this.stored.map(({ id, tokenHash, surface }) => ({ id, tokenHash, surface }));
  }

  /** Whose token it is; null for nobody's. */
  find(token: string | null): JoinedDevice | null {
    return (token !== null && this.byHash.get(hashToken(token))) || null;
  }

  /** The code that lets devices in now, null for none. */
  get code(): JoinCode | null {
    if (!this.given || this.given.untilMs <= this.nowMs()) return null;
    const { code, surface, untilMs, admits } = this.given;
    return { code, surface, untilMs, admits };
  }

  /** A new code, for so many devices that are to get this surface; the former one is no good any more. */
  makeCode(surface: string | null, admits = 1): JoinCode {
    this.given = { code: String(randomInt(10 ** DIGITS)).padStart(DIGITS, '0'), surface, untilMs: this.nowMs() + JOIN.codeMs, admits, wrongGuesses: 0 };
    return this.code!;
  }

  /**
   * Counts a try to join. Throws a `ProblemError` after too many.
   * @param address where the device is
   */
  async mustMayTry(address: string): Promise<void> {
    await this.tries.consume(address).catch(({ msBeforeNext }: { msBeforeNext: number }) => {
      throw new ProblemError('too-many', 'code', `Too many tries from this device: wait ${Math.ceil(msBeforeNext / 1000)} s and try again.`);
    });
  }

  /**
   * Lets a device in that says the code. Throws a `ProblemError` where the code is wrong or over. A device that has joined
   * before joins anew: it does not take a second place.
   * @param before as whom it is known already, null for nobody
   * @returns its token, which is known to it alone from now on
   */
  async join({ code, name, width, height }: JoinRequest, address: string, before: JoinedDevice | null = null): Promise<{ token: string; device: JoinedDevice }> {
    const { given } = this;
    if (!given || !this.code) throw new ProblemError('forbidden', 'code', 'No code is valid now: make a new one on the screen Surfaces of the host.');
    if (code.replace(/\s/g, '') !== given.code) {
      if (++given.wrongGuesses >= JOIN.wrongGuesses) this.given = null;
      throw new ProblemError('forbidden', 'code', 'This is not the code that the host shows: look again and type its six digits.');
    }
    if (this.stored.length >= JOIN.devices && !before) throw new ProblemError('too-many', 'code', `${JOIN.devices} devices have joined already: drop one on the host first.`);
    // Before anything is waited for, so that two at once do not both get in on the last place.
    if (--given.admits <= 0) this.given = null;
    await this.tries.delete(address);
    if (before) await this.repository.remove(before.id);
    const others = this.stored.filter(({ id }) => id !== before?.id);
    const token = makeToken();
    const device: StoredDevice = {
      id: randomUUID(),
      name: freeName(name, others.map((other) => other.name)),
      tokenHash: hashToken(token),
      surface: given.surface,
      width,
      height,
      joinedAtMs: this.nowMs(),
    };
    await this.repository.create(device);
    await this.read();
    await this.onChange();
    return { token, device };
  }

  async change(id: string, set: { name?: string; surface?: string | null }): Promise<void> {
    this.mustKnow(id);
    await this.repository.change(id, set);
    await this.read();
    await this.onChange();
  }

  /** The device is out from this moment on. */
  async drop(id: string): Promise<void> {
    this.mustKnow(id);
    await this.repository.remove(id);
    await this.read();
    await this.onChange();
  }

  private mustKnow(id: string): void {
    if (!this.stored.some((device) => device.id === id)) throw new ProblemError('not-found', 'id', 'This device has been dropped already.');
  }

  private async read(): Promise<void> {
    this.stored = await this.repository.list();
    this.byHash = new Map(this.stored.map((device) => [device.tokenHash, device]));
  }
}
