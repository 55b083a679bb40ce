import { STATUS } from '../../core/midi/message';
import { samePort, type PortIdentity } from '../../core/midi/portName';
import type { Player } from '../player';
import type { NativePorts, PortHandle } from '../ports/nativePorts';
import { hubTimeMs } from '../time';
import type { Intake } from './intake';
import { LifeSign } from './lifeSign';
import { MidiFeed } from './midiFeed';

/** So many ports are listened to at once; a port costs a thread. */
const MOST_PORTS = 32;

interface Listened {
  at: PortIdentity;
  port: PortHandle;
  midi: MidiFeed | null;
  life: LifeSign;
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
      closeOne(gone);
      this.listened.splice(this.listened.indexOf(gone), 1);
    }
    for (const at of inputs) if (this.listened.length < MOST_PORTS && !this.listened.some((known) => samePort(known.at, at))) this.listen(at);
  }

  rigChanged(): void {
    for (const { midi } of this.listened) midi?.rigChanged();
  }

  close(): void {
    this.listened.splice(0).forEach(closeOne);
  }

  private listen(at: PortIdentity): void {
    const life = new LifeSign(() => listened.midi?.missed());
    const listened = { at, midi: null, life } as Omit<Listened, 'port'> & { port?: PortHandle };
    listened.port = this.ports.want(
      { direction: 'in', at },
      {
        // It is an input once it is open: before, and where it will not open, there is nothing to hear.
        state: (away) => {
          if (away === null) listened.midi ??= new MidiFeed({ report: at.report, name: at.report }, { connection: `port ${at.report} ${at.slot}`, where: 'MIDI port' }, this.player, this.intake);
          else {
            life.stop();
            listened.midi?.close();
            listened.midi = null;
          }
        },
        heard: (bytes) => {
          const timeMs = hubTimeMs();
          life.heard(timeMs);
          if (bytes[0] === STATUS.activeSensing) life.given();
          else listened.midi?.push(bytes, timeMs);
        },
      },
    );
    this.listened.push(listened as Listened);
  }
}

function closeOne({ midi, port, life }: Listened): void {
  life.stop();
  midi?.close();
  port.close();
}
