import type { DeviceReport, Found, SourceReport } from '../../core/inputs/device';
import { isInputOf, isSignalOf, oscKey } from '../../core/inputs/device';
import { inputKind } from '../../core/inputs/kinds';
import type { RigDocument, RigSignal } from '../../core/rig/document';
import type { DeviceState, RawLine } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import type { Player } from '../player';
import { hubTimeMs } from '../time';

/** What arrives new is told together this often. */
const TELL_MS = 250;
/** What was told and is still unknown (no web process, on Stage) is told again after this. */
const TELL_AGAIN_MS = 3000;
/** A device that was heard before and not for this long is silent. */
const SILENT_MS = 2000;
/** Rates are smoothed over about this long. */
const RATE_MS = 1000;
/** A gone device is remembered, so that its input can say so. */
const REMEMBERED_GONE = 64;

/** One stream of numbers of a device, and the signal that stands for it, by hub number. */
export interface Source extends Beat {
  readonly device: Device;
  readonly report: SourceReport;
  signal: number | null;
  lastMs: number;
  value: number;
  toldMs: number;
}

/** Counts what came, for a rate that does not jump. Its fields lie in what is counted: with thousands of these, each object costs. */
interface Beat {
  count: number;
  counted: number;
  rateHz: number;
}

const noBeat = (): Beat => ({ count: 0, counted: 0, rateHz: 0 });

function measure(beat: Beat, overMs: number): void {
  const now = ((beat.count - beat.counted) * 1000) / overMs;
  beat.counted = beat.count;
  beat.rateHz += (now - beat.rateHz) * Math.min(1, (2 * overMs) / RATE_MS);
  if (beat.rateHz < 0.05) beat.rateHz = 0;
}

export interface DeviceWhereabouts {
  /** Tells two connections apart that say the same of themselves. */
  connection: string;
  /** In words, for a person. */
  where: string;
  /** For devices that stand for one input whatever they report (a recording, points of light). */
  input?: string;
}

/** A device that is or was connected. */
export class Device implements Beat {
  readonly sources = new Map<string, Source>();
  count = 0;
  counted = 0;
  rateHz = 0;
  lastMs = NaN;
  gone = false;
  /** The input of the rig that stands for it. */
  input: string | null = null;
  /** What a person should know of it; null for nothing. */
  remark: string | null = null;
  /** The one that took over its place, as long as this one keeps silent. */
  successor: Device | null = null;

  constructor(
    public report: DeviceReport & { slot: number },
    readonly whereabouts: DeviceWhereabouts,
  ) {}
}

type RawListener = (line: RawLine) => void;

/**
 * Where everything but surfaces comes in: knows the devices that are there, which inputs and signals of the rig stand for
 * them, and passes their numbers on. What the rig does not know is told to the web process, which takes it up.
 */
export class Intake {
  listening = true;
  private readonly devices = new Map<string, Device>();
  private readonly rawListeners = new Map<string, Set<RawListener>>();
  private found = new Set<Source>();
  private timer: NodeJS.Timeout | null = null;
  private measuredMs = hubTimeMs();
  private indexed: RigDocument | null = null;
  /** The signals of the rig by the key of the source that they stand for. */
  private signalsByKey = new Map<string, RigSignal[]>();

  constructor(
    private readonly player: Player,
    private readonly onFound: (found: Found[]) => void,
  ) {}

  /**
   * A device is there (again). Its place among devices that say the same is the lowest that no other one holds now. An OSC
   * sender that comes on another socket first takes the place of the one that spoke last, as most that change sockets are
   * the same thing; if that one speaks again there are two, and the newcomer moves on.
   */
  connect(report: DeviceReport, whereabouts: DeviceWhereabouts): Device {
    const key = `${report.kind} ${whereabouts.connection} ${report.report}`;
    const known = this.devices.get(key);
    if (known && !known.gone) return known;
    const same = this.alike(report);
    const before = inputKind(report.kind).moves ? same.filter((device) => isHere(device) && !device.successor).sort((a, b) => b.lastMs - a.lastMs)[0] : undefined;
    const slot = before ? before.report.slot : lowestFree(same);
    for (const other of same) if (other.report.slot === slot && !isHere(other)) this.forget(other);
    const device = new Device({ ...report, slot }, whereabouts);
    if (before) before.successor = device;
    this.makeRoom();
    this.devices.set(key, device);
    this.resolveDevice(device);
    return device;
  }

  /** The source of this key, made where the device had none of it. */
  source(device: Device, report: SourceReport): Source {
    const known = device.sources.get(report.key);
    if (known) return known;
    const source: Source = { device, report, signal: null, lastMs: NaN, value: NaN, toldMs: -Infinity, ...noBeat() };
    device.sources.set(report.key, source);
    this.resolveSource(source);
    return source;
  }

  /** A raw number arrived. */
  value(source: Source, timeMs: number, value: number): void {
    const { device } = source;
    this.heard(device, timeMs);
    source.lastMs = timeMs;
    source.count++;
    source.value = value;
    if (source.signal !== null) this.player.sample(source.signal, timeMs, value, null);
    else if (this.listening) this.tellOf(source, timeMs);
  }

  /** Something arrived from a device. */
  heard(device: Device, timeMs: number): void {
    if (device.successor) this.part(device, device.successor);
    device.lastMs = timeMs;
    device.count++;
  }

  /** The device left: gates that it held are let go of. */
  disconnect(device: Device): void {
    if (device.gone) return;
    device.gone = true;
    this.letGo(device);
    const gone = [...this.devices].filter(([, other]) => other.gone);
    for (const [key] of gone.slice(0, Math.max(0, gone.length - REMEMBERED_GONE))) this.devices.delete(key);
  }

  /** Lets go of the gates that a device holds. */
  letGo(device: Device): void {
    const timeMs = hubTimeMs();
    for (const source of device.sources.values()) {
      if (source.report.kind !== 'gate' || !(source.value > 0)) continue;
      source.value = 0;
      if (source.signal !== null) this.player.sample(source.signal, timeMs, 0, null);
    }
  }

  /** After the rig changed: which inputs and signals stand for what is here. New ones hear the present value at once. */
  rigChanged(): void {
    const { rig } = this.player;
    const known = this.indexed;
    this.indexed = rig;
    // Most edits touch neither inputs nor signals.
    if (known && rig && known.inputs === rig.inputs && known.signals === rig.signals) return;
    this.signalsByKey = new Map();
    for (const signal of this.indexed?.signals ?? []) {
      const key = signal.osc ? oscKey(signal.osc.address, signal.osc.argument) : signal.source;
      if (key !== undefined) this.signalsByKey.set(key, [...(this.signalsByKey.get(key) ?? []), signal]);
    }
    const timeMs = hubTimeMs();
    for (const device of this.devices.values()) {
      this.resolveDevice(device);
      for (const source of device.sources.values()) {
        const before = source.signal;
        this.resolveSource(source);
        // A key that is still held is heard from its first press on; one that was let go of is not pressed again.
        const says = source.report.kind === 'continuous' ? Number.isFinite(source.value) : source.value > 0;
        if (before === null && source.signal !== null && !device.gone && says) this.player.sample(source.signal!, timeMs, source.value, null);
      }
    }
  }

  /** Lists the raw messages of an input until the returned function is called. */
  listRaw(input: string, listener: RawListener): () => void {
    const listeners = this.rawListeners.get(input) ?? new Set();
    this.rawListeners.set(input, listeners.add(listener));
    return () => {
      listeners.delete(listener);
      if (listeners.size === 0) this.rawListeners.delete(input);
    };
  }

  /** Whether anybody lists raw messages. */
  get listsRaw(): boolean {
    return this.rawListeners.size > 0;
  }

  /** Shows a message to whoever lists those of its input; `line` is only made where somebody does. */
  showRaw(device: Device, line: () => RawLine): void {
    if (device.input === null) return;
    const listeners = this.rawListeners.get(device.input);
    if (!listeners) return;
    const made = line();
    for (const listener of listeners) listener(made);
  }

  /** How everything is; rates are measured from one call to the next. */
  state(): DeviceState[] {
    const nowMs = hubTimeMs();
    const overMs = Math.max(1, nowMs - this.measuredMs);
    this.measuredMs = nowMs;
    const ago = (lastMs: number) => (Number.isNaN(lastMs) ? null : Math.max(0, Math.round(nowMs - lastMs)));
    return [...this.devices.values()].filter(({ successor }) => !successor).map((device) => {
      measure(device, overMs);
      let unknown = 0;
      const signals = [...device.sources.values()].flatMap((source) => {
        measure(source, overMs);
        const { signal, rateHz, lastMs } = source;
        if (signal === null) {
          unknown++;
          return [];
        }
        return [{ id: this.player.signals.idOf(signal)!, rateHz: rounded(rateHz), lastHeardMsAgo: ago(lastMs) }];
      });
      const { report, whereabouts, rateHz, count, lastMs, gone, input, remark } = device;
      return {
        ...report,
        input,
        state: gone ? 'gone' : nowMs - lastMs > SILENT_MS ? 'silent' : 'live',
        where: whereabouts.where,
        remark,
        rateHz: rounded(rateHz),
        lastHeardMsAgo: ago(lastMs),
        count,
        signals,
        unknown,
      };
    });
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
  }

  private alike({ kind, report }: DeviceReport): Device[] {
    return [...this.devices.values()].filter((device) => device.report.kind === kind && device.report.report === report);
  }

  /** Two that were taken for one both speak: the later one gets a place of its own. */
  private part(first: Device, second: Device): void {
    first.successor = null;
    if (second.gone || second.report.slot !== first.report.slot) return;
    second.report = { ...second.report, slot: lowestFree(this.alike(second.report)) };
    this.resolveDevice(second);
    for (const source of second.sources.values()) this.resolveSource(source);
  }

  /** Of too many OSC senders the one that has been silent longest goes; it is known anew when it speaks. */
  private makeRoom(): void {
    if (this.devices.size < LIMITS.devices) return;
    const senders = [...this.devices.values()].filter(({ report }) => report.kind === 'osc');
    const oldest = senders.reduce<Device | null>((least, device) => (least && least.lastMs <= device.lastMs ? least : device), null);
    if (oldest) this.forget(oldest);
  }

  /** Whoever still holds it sees that it is gone and connects anew. */
  private forget(device: Device): void {
    device.gone = true;
    for (const [key, other] of this.devices) if (other === device) this.devices.delete(key);
  }

  private resolveDevice(device: Device): void {
    const inputs = this.player.rig?.inputs ?? [];
    const { report, whereabouts } = device;
    device.input = inputs.find((input) => (whereabouts.input === undefined ? isInputOf(input, report) : input.id === whereabouts.input))?.id ?? null;
  }

  private resolveSource(source: Source): void {
    const { rig, signals } = this.player;
    const { device, report } = source;
    const { osc } = report;
    const candidates = (this.signalsByKey.get(report.key) ?? []).filter((signal) => isSignalOf(signal, report));
    const own = device.input === null ? undefined : candidates.find(({ input }) => input === device.input);
    // An OSC input that names no device takes its addresses from any sender.
    const open = own ?? (osc && candidates.find(({ input }) => rig?.inputs.some((known) => known.id === input && known.kind === 'osc' && !known.device)));
    source.signal = open ? (signals.find(open.id) ?? null) : null;
    if (open && device.input === null) device.input = open.input;
  }

  private tellOf(source: Source, timeMs: number): void {
    if (timeMs - source.toldMs < TELL_AGAIN_MS) return;
    source.toldMs = timeMs;
    this.found.add(source);
    this.timer ??= setTimeout(() => this.tell(), TELL_MS);
  }

  private tell(): void {
    this.timer = null;
    const byDevice = new Map<Device, SourceReport[]>();
    for (const source of this.found) {
      if (source.signal !== null) continue;
      // A device that says at once all that it has is taken up whole; others grow as they are heard.
      const whole = inputKind(source.device.report.kind).comesWhole;
      byDevice.set(source.device, whole ? [...source.device.sources.values()].map(({ report }) => report) : [...(byDevice.get(source.device) ?? []), source.report]);
    }
    this.found.clear();
    if (byDevice.size > 0 && this.listening) this.onFound([...byDevice].map(([{ report, input }, sources]) => ({ device: report, ...(input === null ? {} : { input }), sources })));
  }
}

function lowestFree(same: readonly Device[]): number {
  const held = new Set(same.filter(isHere).map(({ report: { slot } }) => slot));
  let slot = 1;
  while (held.has(slot)) slot++;
  return slot;
}

/** Whether a device holds its place: one that spoke lately, or that never said goodbye and has no clock to go by. */
function isHere(device: Device): boolean {
  if (device.gone) return false;
  return device.report.kind !== 'osc' || hubTimeMs() - device.lastMs <= SILENT_MS;
}

const rounded = (rateHz: number) => Math.round(rateHz * 10) / 10;
