import type { Input } from '@julusian/midi';
import type { Logger } from 'pino';
import type { Player } from '../player';
import { hubTimeMs } from '../time';
import type { Intake } from './intake';
import { MidiDevice } from './midiDevice';

/** Ports come and go; they are looked for this often. */
const LOOK_MS = 2000;

interface Opened {
  port: Input;
  midi: MidiDevice;
}

/** The MIDI ports of this computer's own system, through an optional package; where it cannot be used it says why. */
export class NativeMidi {
  problem: string | null = null;
  private makePort: (() => Input) | null = null;
  private readonly opened = new Map<string, Opened>();
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
    private readonly log: Logger,
  ) {}

  async start(): Promise<void> {
    try {
      const { Input: Port } = await import('@julusian/midi');
      this.makePort = () => new Port();
      this.look();
    } catch (error) {
      this.fail(error);
    }
  }

  rigChanged(): void {
    for (const { midi } of this.opened.values()) midi.rigChanged();
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    for (const { port, midi } of this.opened.values()) {
      port.closePort();
      midi.close();
    }
    this.opened.clear();
  }

  private readonly look = (): void => {
    try {
      const finder = this.makePort!();
      const names = Array.from({ length: finder.getPortCount() }, (_, i) => finder.getPortName(i));
      const keys = names.map((name, i) => `${name} ${names.slice(0, i).filter((other) => other === name).length}`);
      for (const [key, { port, midi }] of this.opened) {
        if (keys.includes(key)) continue;
        port.closePort();
        midi.close();
        this.opened.delete(key);
      }
      keys.forEach((key, i) => {
        if (!this.opened.has(key)) this.open(key, names[i]!, i);
      });
      this.problem = null;
      this.timer = setTimeout(this.look, LOOK_MS);
    } catch (error) {
      this.fail(error);
    }
  };

  private open(key: string, name: string, index: number): void {
    const port = this.makePort!();
    const midi = new MidiDevice({ report: name, name }, { connection: `port ${key}`, where: 'MIDI port' }, this.player, this.intake);
    port.on('message', (_deltaS, message) => midi.push(Uint8Array.from(message), hubTimeMs()));
    port.ignoreTypes(false, false, true);
    port.openPort(index);
    this.opened.set(key, { port, midi });
  }

  private fail(error: unknown): void {
    this.problem = 'MIDI ports: this computer has none that can be used; a page can bring those of its browser.';
    this.log.info({ err: error }, this.problem);
  }
}
