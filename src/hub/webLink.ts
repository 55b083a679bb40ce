import type { Logger } from 'pino';
import type { WebSocket } from 'ws';
import { LIMITS } from '../protocol/limits';
import { applyEdit } from '../core/rig/edit';
import type { Found } from '../core/inputs/feed';
import type { DeviceLeave } from '../protocol/devices';
import type { InputSettings } from '../protocol/inputSettings';
import type { FromWeb, Names, PieceStanding, ToWeb } from '../protocol/live';
import type { MadeEdit } from '../protocol/madeEdit';
import type { NetworkSettings } from '../protocol/networkSettings';
import type { Recording } from '../protocol/recording';
import type { RecordSettings } from '../protocol/recordSettings';
import { bytesOf, type TakeRecord } from '../protocol/takes';
import { toldNoNames } from './numbering';
import type { Player } from './player';
import type { Recorder } from './recorder';
import { goesOn } from './songTime';
import { Watcher } from './watcher';

/** The web process writes values down; nobody looks at them there. */
const VALUES_MS = 100;

export interface WebLinkEvents {
  /** Another rig plays, or this edit of the one that did. */
  loaded(made?: MadeEdit): void;
  settings(settings: InputSettings): void;
  network(settings: NetworkSettings): void;
  recordSettings(settings: RecordSettings): void;
  recordings(recordings: Record<string, Recording>): void;
  devices(lan: boolean, devices: DeviceLeave[]): void;
}

/**
 * The line to the web process: it brings rigs and is told what changed. Both ends are ours and start with a common
 * secret, so what comes over it is trusted.
 */
export class WebLink {
  /** The messages that leave, for who asks the web process for them. */
  private readonly monitor: Watcher;
  private readonly values: Watcher;
  private saidStanding = '';
  private saidPiece: PieceStanding | null = null;
  private readonly told = toldNoNames();

  constructor(
    private readonly socket: WebSocket,
    private readonly player: Player,
    private readonly recorder: Recorder,
    private readonly log: Logger,
    private readonly events: WebLinkEvents,
  ) {
    this.monitor = new Watcher(socket, player.shown, LIMITS.monitorBacklog);
    this.values = new Watcher(socket, player.shown, 0, VALUES_MS);
    for (const watcher of this.watchers) player.audience.add(watcher);
    this.send({ kind: 'hello', names: this.newNames(), pid: process.pid, recording: recorder.state.take });
    this.values.watchSignals('all');
    for (const number of player.shown.movedSignals()) this.values.signalChanged(number);
    socket.on('message', (data) => this.obey(JSON.parse(String(data)) as FromWeb));
    socket.on('close', () => {
      for (const watcher of this.watchers) player.audience.remove(watcher);
    });
  }

  private get watchers(): Watcher[] {
    return [this.monitor, this.values];
  }

  /** Tells the web process what arrived that the rig does not know. */
  tell(found: Found[]): void {
    this.send({ kind: 'found', rig: this.player.rigId, found });
  }

  /** Hands something of a take over. */
  take(record: TakeRecord): void {
    this.send({ kind: 'take', record });
  }

  /** The take that plays needs its messages after this. */
  wantTake(play: number, untilMs: number): void {
    this.send({ kind: 'takeWants', play, untilMs });
  }

  private newNames(): Names {
    const take = (kind: keyof Names): Names['signals'] => {
      const numbering = kind === 'outputs' ? this.player.outputs.numbers : this.player[kind];
      const { numbered, told } = numbering.since(this.told[kind]);
      this.told[kind] = told;
      return numbered;
    };
    return { signals: take('signals'), mappings: take('mappings'), streams: take('streams'), outputs: take('outputs') };
  }

  private sayLoaded(): void {
    this.sendNames();
    this.send({ kind: 'plays', rig: this.player.rigId, revision: this.player.revision });
    this.sayStanding();
  }

  /** Tells how the rig stands, where that is something new. */
  sayStanding(): void {
    const { rigId: rig, standing } = this.player;
    if (!standing) return;
    const { piece, ...rest } = standing;
    const said = JSON.stringify([rig, rest]);
    if (said === this.saidStanding && this.saidPiece && goesOn(this.saidPiece, piece, piece.atSystemMs - this.saidPiece.atSystemMs)) return;
    this.saidStanding = said;
    this.saidPiece = piece;
    this.send({ kind: 'stands', rig, standing });
  }

  private sendNames(): void {
    const names = this.newNames();
    if (Object.values(names).some((list) => list.length > 0)) this.send({ kind: 'names', names });
  }

  private send(message: ToWeb): void {
    this.socket.send(JSON.stringify(message));
  }

  private obey(message: FromWeb): void {
    const { player } = this;
    switch (message.kind) {
      case 'load': {
        const isOther = player.opens(message.id);
        player.load(message.rig, message.revision, message.stage, message.values, message.standing);
        // What lies at rest was never moved there: nothing to write down.
        if (isOther) player.shown.tellSignals(this.values);
        this.log.info({ rig: message.rig.name, revision: message.revision }, 'rig loaded');
        this.sayLoaded();
        return this.events.loaded();
      }
      case 'edit': {
        const { made, values } = message;
        const edited = player.rig && player.rigId === made.id && player.revision === made.revision - 1 ? applyEdit(player.rig, made.edit) : null;
        if (!edited?.ok) {
          this.log.warn({ revision: made.revision, ours: player.revision }, 'an edit does not fit the rig that plays: asking for the whole');
          return this.send({ kind: 'resend' });
        }
        player.load(edited.document, made.revision, player.stage, values);
        this.sayLoaded();
        return this.events.loaded(made);
      }
      case 'recall':
        if (!player.recall(message.scene)) this.log.warn({ scene: message.scene }, 'no such scene');
        return;
      case 'monitor':
        this.monitor.monitor = message.on;
        player.audience.changed();
        return message.on ? this.send({ kind: 'monitors' }) : undefined;
      case 'settings':
        return this.events.settings(message.settings);
      case 'recordSettings':
        return this.events.recordSettings(message.settings);
      case 'network':
        return this.events.network(message.settings);
      case 'recordings':
        return this.events.recordings(message.recordings);
      case 'obeyed':
        return this.send({ kind: 'obeyed', number: message.number });
      case 'record':
        return void this.recorder.begin();
      case 'playTake':
        return player.takes.begin(message.play, message.state, message.tempoBpm);
      case 'takeMessages':
        return player.takes.more(message.play, message.messages.map(([dueMs, output, bytes, ofVoice]) => ({ dueMs, output, bytes: bytesOf(bytes), ofVoice })), message.untilMs, message.last);
      case 'stopTake':
        return player.takes.stop();
      case 'takeStored':
        return this.recorder.stored(message.take, message.number, message.warning);
      case 'takeRefused':
        return this.recorder.refused(message.reason);
      case 'devices':
        return this.events.devices(message.lan, message.devices);
      default:
        return message satisfies never;
    }
  }
}
