import { samePort, type PortIdentity } from '../../core/midi/portName';
import type { Player } from '../player';
import type { NativePorts, PortHandle } from '../ports/nativePorts';
import { hubTimeMs } from '../time';
import type { Intake } from './intake';
import { MidiFeed } from './midiFeed';

/** So many ports are listened to at once; a port costs a thread. */
const MOST_PORTS = 32;

interface Listened {
  at: PortIdentity;
  port: PortHandle;
  midi: MidiFeed | null;
}

/** Listens to the MIDI ports of this computer's own system, as they come and go. */
export class NativeMidi {
  private readonly listened: Listened[] = [];

  constructor(
    private readonly ports: NativePorts,
    private readonly player: Player,
    private readonly intake: Intake,
  ) {}

  /** Why there are none; null where there can be some. */
  get problem(): string | null {
    return this.ports.usable === false ? 'MIDI ports: this computer has none that can be used; a page can bring those of its browser.' : null;
  }

  /** Other ports are there. */
  changed(): void {
    const { inputs } = this.ports;
    for (const gone of this.listened.filter(({ at }) => !inputs.some((there) => samePort(there, at)))) {
      gone.port.close();
      gone.midi?.close();
      this.listened.splice(this.listened.indexOf(gone), 1);
    }
    for (const at of inputs) if (this.listened.length < MOST_PORTS && !this.listened.some((known) => samePort(known.at, at))) this.listen(at);
  }

  rigChanged(): void {
    for (const { midi } of this.listened) midi?.rigChanged();
  }

  close(): void {
    for (const { midi, port } of this.listened.splice(0)) {
      midi?.close();
      port.close();
    }
  }

  private listen(at: PortIdentity): void {
    const listened = { at, midi: null } as Omit<Listened, 'port'> & { port?: PortHandle };
    listened.port = this.ports.want(
      { direction: 'in', at },
      {
        // It is an input once it is open: before, and where it will not open, there is nothing to hear.
        state: (away) => {
          if (away === null) listened.midi ??= new MidiFeed({ report: at.report, name: at.report }, { connection: `port ${at.report} ${at.slot}`, where: 'MIDI port' }, this.player, this.intake);
          else {
            listened.midi?.close();
            listened.midi = null;
          }
        },
        heard: (bytes) => listened.midi?.push(bytes, hubTimeMs()),
      },
    );
    this.listened.push(listened as Listened);
  }
}
