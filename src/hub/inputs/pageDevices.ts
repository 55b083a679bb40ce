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
  private readonly connection = randomUUID();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
  ) {}

  /** The numbers under which the page sends what the device says; null where it has brought too many already. */
  tell({ device: name, report, sources }: Told): { sources: number[]; midi: number } | null {
    let known = this.byName.get(name);
    if (!known) {
      if (this.byName.size >= LIMITS.devicesPerPage) return null;
      known = this.connect(name, report);
      this.byName.set(name, known);
    }
    const { device } = known;
    return { sources: sources.map((source) => this.intake.source(device, source).number), midi: device.number };
  }

  gone(name: string): void {
    const known = this.byName.get(name);
    this.byName.delete(name);
    if (known?.midi) known.midi.close();
    else if (known) this.intake.disconnect(known.device);
  }

  /** A source that this page told of. */
  source(number: number): Source | undefined {
    const source = this.intake.byNumber(number);
    return source && [...this.byName.values()].some(({ device }) => device === source.device) ? source : undefined;
  }

  midi(deviceNumber: number): MidiDevice | undefined {
    return [...this.byName.values()].find(({ device }) => device.number === deviceNumber)?.midi ?? undefined;
  }

  rigChanged(): void {
    for (const { midi } of this.byName.values()) midi?.rigChanged();
  }

  close(): void {
    for (const name of [...this.byName.keys()]) this.gone(name);
  }

  private connect(name: string, report: Told['report']): { device: Device; midi: MidiDevice | null } {
    const whereabouts = { connection: `${this.connection} ${name}`, where: 'a page' };
    if (report.kind !== 'midi') return { device: this.intake.connect(report, whereabouts), midi: null };
    const midi = new MidiDevice(report, whereabouts, this.player, this.intake);
    return { device: midi.device, midi };
  }
}
