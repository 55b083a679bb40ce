import type { Logger } from 'pino';
import type { Found } from '../core/inputs/feed';
import type { InputSettings } from '../protocol/inputSettings';
import type { InputsState } from '../protocol/live';
import { Intake } from './inputs/intake';
import { NativeMidi } from './inputs/nativeMidi';
import { NetworkInputs } from './inputs/networkInputs';
import { OscInput } from './inputs/oscUdp';
import { PointsInputs } from './inputs/points';
import { Replays } from './inputs/replay';
import { StandIns } from './inputs/standIns';
import type { Player } from './player';
import type { NativePorts } from './ports/nativePorts';
import { hubTimeMs } from './time';

export interface InputsEvents {
  found(found: Found[]): void;
  scene(scene: string): void;
  record(does: 'begin' | 'end' | 'toggle' | 'mark'): void;
  /** The signals that some page wants held back. */
  heldBack(): string[];
  /** A mapping is introduced, or no longer. */
  introduction(): void;
}

/** Everything that comes in besides the fingers on surfaces. */
export class Inputs {
  readonly intake: Intake;
  readonly standIns: StandIns;
  readonly replays: Replays;
  readonly osc: OscInput;
  private readonly points: PointsInputs;
  readonly network: NetworkInputs;
  private readonly nativeMidi: NativeMidi;
  private oscPort = 0;
  private setting: Promise<void> = Promise.resolve();

  constructor(
    private readonly player: Player,
    log: Logger,
    ports: NativePorts,
    private readonly events: InputsEvents,
  ) {
    this.intake = new Intake(player, events.found);
    this.points = new PointsInputs(player, this.intake);
    this.osc = new OscInput(player, this.intake, this.points, log, events.scene, events.record);
    this.standIns = new StandIns(player, this.intake, () => this.oscPort);
    this.replays = new Replays(player, this.intake);
    this.network = new NetworkInputs(player, this.intake);
    this.nativeMidi = new NativeMidi(ports, player, this.intake);
  }

  /** Other MIDI ports are there. */
  portsChanged(): void {
    this.nativeMidi.changed();
  }

  /** Settings come into force one after another, however quickly they follow. */
  set(settings: InputSettings): Promise<void> {
    this.intake.listening = settings.listening;
    this.oscPort = settings.oscPorts[0]!;
    return (this.setting = this.setting.then(() => this.osc.set(settings)));
  }

  rigChanged(): void {
    this.points.rigChanged();
    this.intake.rigChanged();
    this.replays.rigChanged();
    this.standIns.rigChanged();
    this.nativeMidi.rigChanged();
    this.network.rigChanged();
    this.heldBackChanged();
  }

  heldBackChanged(): void {
    const numbers = this.events.heldBack().map((id) => this.player.signals.find(id));
    this.player.incoming.holdBack(new Set(numbers.filter((number) => number !== undefined)));
  }

  introductionChanged(): void {
    this.events.introduction();
  }

  /** Called now and then: loops that were cut meanwhile are said. */
  sayLoops(): void {
    for (const loop of this.player.outputs.loops.take(hubTimeMs())) this.osc.loopFound(loop);
  }

  get state(): InputsState {
    return {
      listening: this.intake.listening,
      feeds: this.intake.state(),
      oscPorts: this.osc.portStates,
      leftOut: this.osc.leftOutCounts,
      standIns: this.standIns.states,
      midiProblem: this.nativeMidi.problem,
    };
  }

  close(): void {
    this.standIns.close();
    this.replays.close();
    this.nativeMidi.close();
    this.network.close();
    this.osc.close();
    this.points.close();
    this.intake.close();
  }
}
