import { randomUUID } from 'node:crypto';
import type { FromPage } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import type { Player } from '../player';
import type { Device, Intake, Source } from './intake';
import { MidiDevice } from './midiDevice';

type Told = Extract<FromPage, { kind: 'device' }>;

interface Brought {
  device: Device;
  midi: MidiDevice | null;
  number: number;
}

/** What a frame can name a source by. */
const MOST = 0xffff;

/** The devices that one page brings: gamepads, its own motion, MIDI ports of its browser, keyboard and pointer. */
export class PageDevices {
  private readonly byName = new Map<string, Brought>();
  /** By the numbers that the page was given: never given twice, so that a late frame means what it meant. */
  private readonly sources = new Map<number, Source>();
  private readonly numbers = new Map<Source, number>();
  private readonly devices = new Map<number, Brought>();
  private nextSource = 0;
  private nextDevice = 0;
  private readonly connection = randomUUID();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
    /** The joined device whose page it is: what it brings is its own, and never a device of the host. */
    private readonly owner: string | null = null,
  ) {}

  /** The numbers under which the page sends what the device says; null where it has brought too much already. */
  tell({ device: name, report, sources }: Told): { sources: number[]; midi: number } | null {
    let known = this.byName.get(name);
    const fresh = sources.filter(({ key }) => !known?.device.sources.has(key)).length;
    if (this.nextSource + fresh > MOST || (fresh > 0 && (known?.device.sources.size ?? 0) + fresh > LIMITS.sourcesPerDevice)) return null;
    if (!known) {
      if (this.byName.size >= LIMITS.devicesPerPage) return null;
      known = { ...this.connect(name, report), number: this.nextDevice++ };
      this.byName.set(name, known);
      this.devices.set(known.number, known);
    }
    const { device, number } = known;
    return { sources: sources.map((source) => this.numberOf(this.intake.source(device, source))), midi: number };
  }

  gone(name: string): void {
    const known = this.byName.get(name);
    if (!known) return;
    this.byName.delete(name);
    this.devices.delete(known.number);
    for (const source of known.device.sources.values()) {
      const number = this.numbers.get(source);
      if (number !== undefined) this.sources.delete(number);
      this.numbers.delete(source);
    }
    if (known.midi) known.midi.close();
    else this.intake.disconnect(known.device);
  }

  /** Ends what the devices hold; they stay. */
  letGo(): void {
    for (const { device, midi } of this.byName.values()) {
      midi?.letGo();
      this.intake.letGo(device);
    }
  }

  /** A source that this page told of. */
  source(number: number): Source | undefined {
    const source = this.sources.get(number);
    return source && !source.device.gone ? source : undefined;
  }

  midi(number: number): MidiDevice | undefined {
    const known = this.devices.get(number);
    return known && !known.device.gone ? (known.midi ?? undefined) : undefined;
  }

  rigChanged(): void {
    for (const { midi } of this.byName.values()) midi?.rigChanged();
  }

  close(): void {
    for (const name of [...this.byName.keys()]) this.gone(name);
  }

  private numberOf(source: Source): number {
    const known = this.numbers.get(source);
    if (known !== undefined) return known;
    const number = this.nextSource++;
    this.sources.set(number, source);
    this.numbers.set(source, number);
    return number;
  }

  private connect(name: string, report: Told['report']): Omit<Brought, 'number'> {
    const whereabouts = { connection: `${this.connection} ${name}`, where: 'a page' };
    if (this.owner !== null) return { device: this.intake.connect({ ...report, report: `device ${this.owner}` }, whereabouts), midi: null };
    if (report.kind !== 'midi') return { device: this.intake.connect(report, whereabouts), midi: null };
    const midi = new MidiDevice(report, whereabouts, this.player, this.intake);
    return { device: midi.device, midi };
  }
}
