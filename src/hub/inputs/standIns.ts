import { createSocket, type Socket } from 'node:dgram';
import { STAND_INS } from '../../core/standIn';
import { StandInPlayer } from '../../core/standIn/player';
import type { Reading, StandIn, StandInSettings } from '../../core/standIn/standIn';
import type { StandInState } from '../../protocol/live';
import { encodeOsc } from '../../net/osc/codec';
import type { Player } from '../player';
import { hubTimeMs } from '../time';
import type { Feed, Intake } from './intake';
import { MidiFeed } from './midiFeed';

/** A stand-in that was held up by so much skips what it missed instead of making up for it. */
const SKIP_MS = 200;

/** The stand-ins that ship with the program: each runs on its own even grid while it is on. */
export class StandIns {
  private readonly all: RunningStandIn[];

  constructor(player: Player, intake: Intake, oscPort: () => number) {
    this.all = STAND_INS.map((standIn, i) => new RunningStandIn(new StandInPlayer(standIn, 4711 + i), player, intake, oscPort));
  }

  get states(): StandInState[] {
    return this.all.map(({ state }) => state);
  }

  /** False where there is none of this id. */
  set(id: string, on: boolean | undefined, settings: Partial<StandInSettings>): boolean {
    const one = this.find(id);
    one?.set(on, settings);
    return one !== undefined;
  }

  /** A hand on a knob; false where there is none. */
  move(id: string, knob: string, value: number): boolean {
    return this.find(id)?.simulated.move(knob, value) ?? false;
  }

  rigChanged(): void {
    for (const one of this.all) one.rigChanged();
  }

  close(): void {
    for (const one of this.all) one.set(false, {});
  }

  private find(id: string): RunningStandIn | undefined {
    return this.all.find(({ simulated }) => simulated.standIn.id === id);
  }
}

/** Where the readings of a stand-in go, in the way of the real thing. */
interface Line {
  send(reading: Reading, timeMs: number): void;
  rigChanged(): void;
  close(): void;
}

class RunningStandIn {
  private line: Line | null = null;
  private timer: NodeJS.Timeout | null = null;
  private dueMs = 0;

  constructor(
    readonly simulated: StandInPlayer,
    private readonly player: Player,
    private readonly intake: Intake,
    private readonly oscPort: () => number,
  ) {}

  get state(): StandInState {
    return { id: this.simulated.standIn.id, on: this.line !== null, settings: this.simulated.settings };
  }

  set(on: boolean | undefined, settings: Partial<StandInSettings>): void {
    Object.assign(this.simulated.settings, settings);
    if (on === true && !this.line) {
      this.line = this.open(this.simulated.standIn);
      this.dueMs = hubTimeMs();
      this.step();
    } else if (on === false && this.line) {
      if (this.timer) clearTimeout(this.timer);
      this.timer = null;
      this.line.close();
      this.line = null;
    }
  }

  rigChanged(): void {
    this.line?.rigChanged();
  }

  private readonly step = (): void => {
    const nowMs = hubTimeMs();
    for (const reading of this.simulated.read(nowMs)) this.line?.send(reading, nowMs);
    const everyMs = 1000 / this.simulated.settings.rateHz;
    this.dueMs += everyMs;
    if (this.dueMs < nowMs - SKIP_MS) this.dueMs = nowMs + everyMs;
    this.timer = setTimeout(this.step, Math.max(0, this.dueMs - hubTimeMs()));
  };

  private open({ feed, sources }: StandIn): Line {
    switch (feed.kind) {
      case 'osc':
        return new OscLine(this.oscPort());
      case 'midi':
        return new MidiLine(new MidiFeed(feed, { connection: 'stand-in', where: 'stand-in' }, this.player, this.intake));
      default: {
        const opened = this.intake.connect(feed, { connection: 'stand-in', where: 'stand-in' });
        for (const source of sources) this.intake.source(opened, source);
        return new SourceLine(opened, this.intake);
      }
    }
  }
}

/** Real packets over real UDP, to the port that Pumice listens on. */
class OscLine implements Line {
  private readonly socket: Socket = createSocket('udp4');

  constructor(private readonly port: number) {
    // Nobody listening is what the Inputs screen says already.
    this.socket.on('error', () => undefined);
  }

  send(reading: Reading): void {
    if (reading.way === 'osc') this.socket.send(encodeOsc(reading.address, reading.arguments), this.port, '127.0.0.1');
  }

  rigChanged(): void {}

  close(): void {
    this.socket.close();
  }
}

class MidiLine implements Line {
  constructor(private readonly midi: MidiFeed) {}

  send(reading: Reading, timeMs: number): void {
    if (reading.way === 'midi') this.midi.push(Uint8Array.from(reading.bytes), timeMs);
  }

  rigChanged(): void {
    this.midi.rigChanged();
  }

  close(): void {
    this.midi.close();
  }
}

class SourceLine implements Line {
  constructor(
    private readonly feed: Feed,
    private readonly intake: Intake,
  ) {}

  send(reading: Reading, timeMs: number): void {
    if (reading.way !== 'source') return;
    const source = this.feed.sources.get(reading.key);
    // A button says something only when it changes, as a real one does.
    if (!source || (source.report.kind === 'gate' && source.value === reading.value)) return;
    if (source.report.kind === 'gate' && Number.isNaN(source.value) && reading.value === 0) return;
    this.intake.value(source, timeMs, reading.value);
  }

  rigChanged(): void {}

  close(): void {
    this.intake.disconnect(this.feed);
  }
}
