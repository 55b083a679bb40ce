import { randomUUID } from 'node:crypto';
import type { FromPage } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import type { Player } from '../player';
import type { Device, Intake, Source } from './intake';
import { MidiDevice } from './midiDevice';

type Told = Extract<FromPage, { kind: 'device' }>;

/** The devices that one page brings: gamepads, its own motion, MIDI ports of its browser, keyboard and pointer. */
export class PageDevices {
  private readonly byName = new Map<string, { device: Device; midi: MidiDevice | null }>();
  /** By the numbers that the page was given: never given twice, so that a late frame means what it meant. */
  private readonly sources: Source[] = [];
  private readonly devices: { device: Device; midi: MidiDevice | null }[] = [];
  private readonly connection = randomUUID();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
    /** The joined device whose page it is: what it brings is its own, and never a device of the host. */
    private readonly owner: string | null = null,
  ) {}

  /** The numbers under which the page sends what the device says; null where it has brought too many already. */
  tell({ device: name, report, sources }: Told): { sources: number[]; midi: number } | null {
    let known = this.byName.get(name);
    if (!known) {
      if (this.byName.size >= LIMITS.devicesPerPage) return null;
      known = this.connect(name, report);
      this.byName.set(name, known);
      this.devices.push(known);
    }
    const { device } = known;
    return { sources: sources.map((source) => this.numberOf(this.intake.source(device, source))), midi: this.devices.indexOf(known) };
  }

  gone(name: string): void {
    const known = this.byName.get(name);
    this.byName.delete(name);
    if (known?.midi) known.midi.close();
    else if (known) this.intake.disconnect(known.device);
  }

  /** A source that this page told of. */
  source(number: number): Source | undefined {
    const source = this.sources[number];
    return source && !source.device.gone ? source : undefined;
  }

  midi(number: number): MidiDevice | undefined {
    const known = this.devices[number];
    return known && !known.device.gone ? (known.midi ?? undefined) : undefined;
  }

  rigChanged(): void {
    for (const { midi } of this.byName.values()) midi?.rigChanged();
  }

  close(): void {
    for (const name of [...this.byName.keys()]) this.gone(name);
  }

  private numberOf(source: Source): number {
    const known = this.sources.indexOf(source);
    return known >= 0 ? known : this.sources.push(source) - 1;
  }

  private connect(name: string, report: Told['report']): { device: Device; midi: MidiDevice | null } {
    const whereabouts = { connection: `${this.connection} ${name}`, where: 'a page' };
    if (this.owner !== null) return { device: this.intake.connect({ ...report, report: `device ${this.owner}` }, whereabouts), midi: null };
    if (report.kind !== 'midi') return { device: this.intake.connect(report, whereabouts), midi: null };
    const midi = new MidiDevice(report, whereabouts, this.player, this.intake);
    return { device: midi.device, midi };
  }
}
