import type { Logger } from 'pino';
import type { RawData, WebSocket } from 'ws';
import { CLOSED_NOT_JOINED, type DeviceLeave } from '../protocol/devices';
import { decodeMidi, encodeWrite, FRAME, isSampled, sampleCount, sampleSequence, samplesFault, sampleSignal, sampleTimeMs, sampleValue } from '../protocol/frames';
import { LIMITS } from '../protocol/limits';
import { LIVE_VERSION, type FromClient, type LentIdentity, type ToClient, type Watch } from '../protocol/live';
import { checkFromClient } from '../protocol/liveSchema';
import type { MemberShown } from '../protocol/transport';
import type { MadeEdit } from '../protocol/madeEdit';
import type { ProblemCode } from '../protocol/problem';
import { BadFrames } from './badFrames';
import type { Inputs } from './inputs';
import type { Outputs } from './outputs/outputs';
import type { Introduction } from './introduction';
import { ClientFeeds } from './inputs/clientFeeds';
import { RawList } from './inputs/rawList';
import { obey } from './obey';
import type { Lender } from './outputs/lentPorts';
import { canMakePorts } from './outputs/outputs';
import { ClientWatch } from './clientWatch';
import { Played } from './played';
import type { Player } from './player';
import type { RecordControl } from './recordControl';
import { Rate } from './rate';
import { believable, hubTimeMs } from './time';
import { Watcher } from './watcher';

/** Who goes so far beyond its rate is not playing. */
const FLOOD = 20;
/** As a number of what has none. */
const NOTHING = -2;

/** One page on the live line: takes its frames, as many and of the kind that it may send, and shows it what it watches. */
export class Session {
  readonly watcher: Watcher;
  readonly watching: ClientWatch;
  readonly played: Played;
  readonly feeds: ClientFeeds;
  /** Signals that this page wants held back. */
  heldBack: readonly string[] = [];
  private answered = true;
  private expelled = false;
  /** It said hello. What it was told of the rig before would be missing among what it is told then. */
  private isWelcome = false;
  private readonly messages: Rate;
  private readonly frames: Rate;
  private readonly badFrames = new BadFrames();
  private raw: RawList | null = null;
  /** The introduction that this page began. */
  private introduction: Introduction | null = null;
  private shownOutputs = '';
  private watchesDelays: Watch['delays'] | null = null;
  private readonly lender: Lender = {
    write: (number, bytes) => {
      // One that takes nothing any more is closed, as everywhere: left out, the end of a note would be missed.
      if (this.socket.bufferedAmount > LIMITS.socketBacklogBytes) this.socket.terminate();
      else this.socket.send(encodeWrite(number, bytes));
    },
  };

  constructor(
    private readonly socket: WebSocket,
    readonly player: Player,
    readonly inputs: Inputs,
    readonly outputs: Outputs,
    readonly record: RecordControl,
    readonly log: Logger,
    private readonly onPresence: () => void,
    /** The joined device whose page it is; null for a page on this computer, which may do everything. */
    public device: DeviceLeave | null = null,
  ) {
    this.feeds = new ClientFeeds(player, inputs.intake, device?.id ?? null);
    this.watcher = new Watcher(socket, player.shown, 500);
    this.watching = new ClientWatch(socket, player, this.watcher);
    this.played = new Played(player, this.watcher, (code, field, message) => this.refuse(code, field, message), () => this.device !== null);
    const who = device ? 'device' : 'host';
    this.messages = new Rate(LIMITS.messagesPerSecond[who]);
    this.frames = new Rate(LIMITS.framesPerSecond[who]);
    player.audience.add(this.watcher);
    socket.on('message', (data, isBinary) => this.receive(data, isBinary));
    socket.on('pong', () => (this.answered = true));
  }

  get surface(): string | null {
    return this.played.surface;
  }

  /** What the device was given may be another surface than before: from here on it plays the former one no more. */
  give(device: DeviceLeave): void {
    this.device = device;
    if (this.surface === null || this.surface === device.surface) return;
    this.plays(null);
    this.send({ kind: 'given', surface: device.surface });
    this.onPresence();
  }

  /** The device was dropped: not a frame of it counts from here. */
  expel(): void {
    this.expelled = true;
    this.socket.close(CLOSED_NOT_JOINED, 'dropped');
  }

  send(message: ToClient): void {
    if (this.socket.bufferedAmount > LIMITS.socketBacklogBytes) return this.socket.terminate();
    this.socket.send(JSON.stringify(message));
  }

  /** After the rig changed: numbers may be new, and so may what this page is allowed to send. */
  rigChanged(made?: MadeEdit): void {
    if (!this.isWelcome) return;
    const { player } = this;
    this.allow();
    const names = this.watching.newNames();
    if (names) this.send({ kind: 'names', names });
    // Screens of the bench have the whole rig and make the same edit on it; a joined device is shown its surface alone.
    if (made && !this.device && this.surface === null) this.send({ kind: 'edited', made });
    else this.send({ kind: 'rig', rig: player.rigId, revision: player.revision, stage: player.stage });
    // A hub that began again knows only now where its surface was turned to.
    if (!made) this.showPage();
    this.feeds.rigChanged();
  }

  /**
   * Called at even intervals: a page whose network was cut does not close its socket, so one that did not answer the
   * last ping is taken for gone, and what it held is released.
   */
  checkAlive(): void {
    if (!this.answered) return this.socket.terminate();
    this.answered = false;
    this.socket.ping();
  }

  /** The page went away: the gates it held are released. */
  close(): void {
    this.player.audience.remove(this.watcher);
    this.played.letGo(true);
    this.feeds.close();
    this.lend([]);
    this.raw?.close();
    this.holdBack([]);
    // Whoever introduces a mapping and leaves ends it.
    if (this.introduction && this.introduction === this.player.introduction && this.player.endIntroduction()) this.inputs.introductionChanged();
  }

  /** Another surface from now on: what was held of the former is let go. */
  plays(surface: string | null): void {
    this.played.letGo();
    this.played.surface = surface;
    this.allow();
  }

  welcome(surface: string | null): void {
    const { player } = this;
    this.isWelcome = true;
    this.played.surface = surface;
    this.allow();
    this.send({
      kind: 'welcome',
      version: LIVE_VERSION,
      hubTimeMs: hubTimeMs(),
      names: this.watching.allNames(),
      rig: player.rigId,
      revision: player.revision,
      stage: player.stage,
    });
    this.showPage();
    if (player.introduction) this.showIntroduction();
    this.showRecording();
    this.showPlaying();
    this.showTransport();
    this.onPresence();
  }

  watch(watch: Watch): void {
    const { player, watcher } = this;
    watcher.monitor = watch.monitor === true;
    watcher.activity = watch.activity === true;
    watcher.inputs = watch.inputs === true;
    this.shownOutputs = '';
    watcher.outputStates = watch.outputStates === true;
    this.showOutputs();
    this.watchesDelays = watch.delays ?? null;
    this.showDelays();
    if (watch.ensemble === true && !watcher.ensemble) this.showMembers(player.shown.members(true));
    watcher.ensemble = watch.ensemble === true;
    const newToStates = watch.mappingStates === true && !watcher.mappingStates;
    watcher.mappingStates = watch.mappingStates === true;
    if (newToStates) this.showMappingStates();
    player.audience.changed();
    this.listRaw(watch.raw ?? null);
    this.onPresence();
  }

  holdBack(signals: readonly string[]): void {
    this.heldBack = signals;
    this.inputs.heldBackChanged();
  }

  /** This page began or ended an introduction. */
  introduced(): void {
    this.introduction = this.player.introduction;
    if (this.introduction) this.introduction.onNext = () => this.send({ kind: 'introduceNext' });
    this.inputs.introductionChanged();
  }

  /** Tells which mapping is introduced. */
  showIntroduction(): void {
    const { introduction } = this.player;
    this.send({ kind: 'introducing', mapping: introduction?.id ?? null, untilHubMs: introduction?.untilHubMs ?? 0, inTurn: (this.hasTurn && introduction?.inTurn) || null });
  }

  /** Somebody at this page says that what is introduced in turn was learned: a joined device only of what it plays itself. */
  introduceNext(): void {
    const { introduction } = this.player;
    if (!introduction?.inTurn) return;
    if (this.hasTurn) introduction.onNext();
    else this.refuse('forbidden', 'introduceNext', 'What is introduced now is not played by this surface.');
  }

  private get hasTurn(): boolean {
    const { introduction, rig } = this.player;
    if (this.device === null) return true;
    const signal = rig?.mappings.find(({ id }) => id === introduction?.id)?.signal;
    if (signal !== undefined) return this.played.plays(signal);
    const stream = rig?.voiceMappings.find(({ id }) => id === introduction?.id)?.stream;
    return stream !== undefined && this.played.playsStream(stream);
  }

  /** Tells a play page which page and bank of its surface to show. */
  showPage(): void {
    const turned = this.surface === null ? undefined : this.player.standsBy.turned.get(this.surface);
    if (turned) this.send({ kind: 'page', turned });
  }

  /** Which take plays. */
  showPlaying(): void {
    if (!this.device) this.send({ kind: 'playing', playing: this.player.takes.state });
  }

  /** How the transport stands: every page of this computer may say so. */
  showTransport(transport = this.player.song.state): void {
    if (transport && !this.device) this.send({ kind: 'transport', transport });
  }

  showMembers(members: MemberShown[] | null): void {
    if (members) this.send({ kind: 'ensemble', members });
  }

  /** Whether a take is recorded: every page says so. */
  showRecording(): void {
    this.send({ kind: 'recording', recording: this.record.state });
  }

  showMappingStates(): void {
    if (this.watcher.mappingStates) this.send({ kind: 'mappingStates', states: this.player.shown.mappingStates });
  }

  /** Tells how outputs are, and where more could lead, where that is something new. */
  showOutputs(): void {
    if (!this.watcher.outputStates) return;
    const { ports, lent, network } = this.outputs;
    const outputs = { outputs: this.player.outputs.states, ports: ports.outputs.slice(), lent: lent.there, usable: ports.usable, canMake: canMakePorts(process.platform), network: network.state };
    const said = JSON.stringify(outputs);
    if (said === this.shownOutputs) return;
    this.shownOutputs = said;
    this.send({ kind: 'outputs', outputs });
  }

  showDelays(): void {
    if (!this.watchesDelays) return;
    const { output, mapping } = this.watchesDelays;
    const { outputs, mappings } = this.player;
    // Of what has no number nothing has left.
    const delays = outputs.delays.report(hubTimeMs(), { ...(output !== undefined && { output: outputs.numbers.find(output) ?? NOTHING }), ...(mapping !== undefined && { mapping: mappings.find(mapping) ?? NOTHING }) });
    this.send({ kind: 'delays', delays });
  }

  /** This page lends ports of its browser from now on. */
  lend(ports: readonly LentIdentity[]): void {
    this.outputs.lent.lend(this.lender, ports);
  }

  refuse(code: ProblemCode, field: string, message: string): void {
    const { log, close } = this.badFrames.add();
    if (log) this.log.warn({ code, field, surface: this.surface }, message);
    if (close) return this.socket.close(1008, 'too many bad frames');
    this.send({ kind: 'problem', problem: { code, field, message } });
  }

  private allow(): void {
    const seen = this.played.allow();
    if (seen && this.device) this.watching.limitTo(seen.signals, seen.streams);
  }

  private listRaw(input: string | null): void {
    if ((this.raw?.input ?? null) === input) return;
    this.raw?.close();
    this.raw = input !== null ? new RawList(input, this.inputs.intake, (lines, dropped) => this.send({ kind: 'raw', input, lines, dropped })) : null;
  }

  private receive(data: RawData, isBinary: boolean): void {
    if (this.expelled) return;
    const bytes = data as Buffer;
    const view = isBinary ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength) : null;
    // What is left out or refused was heard, too: the page must believe what it is told after it.
    if (view && isSampled(view)) this.watcher.heardUpTo = (sampleSequence(view) + 1) >>> 0;
    const rate = view ? this.frames : this.messages;
    if (!rate.allows(hubTimeMs())) return this.tooFast(rate);
    return view ? this.takeFrame(view) : this.takeText(bytes.toString('utf8'));
  }

  private takeText(text: string): void {
    let parsed: unknown;
    try {
      parsed = JSON.parse(text);
    } catch {
      return this.refuse('malformed-json', 'frame', 'A text frame must be JSON.');
    }
    const message = checkFromClient(parsed, this.device !== null);
    if (message === 'forbidden') return this.refuse('forbidden', (parsed as FromClient).kind, 'A joined device plays its surface; the rest is for the host alone.');
    if (message.ok) return obey(this, message.value);
    const { field, message: sentence } = message.problems[0]!;
    this.refuse('invalid', field, sentence);
  }

  private takeFrame(view: DataView): void {
    switch (view.byteLength > 0 ? view.getUint8(0) : -1) {
      case FRAME.midi:
        return this.takeMidi(view);
      case FRAME.sources:
      case FRAME.sourcesHeldOn:
        return this.takeSources(view);
      case FRAME.voices:
        return this.played.takeVoices(view);
      case FRAME.feedVoices:
        return this.feeds.takeVoices(view, (code, field, message) => this.refuse(code, field, message));
      default:
        return this.played.take(view);
    }
  }

  /** Values of devices at this page, by source number. One that is not a number is left out and counted as bad. */
  private takeSources(view: DataView): void {
    const fault = samplesFault(view);
    if (fault) return this.refuse('malformed-frame', fault.field, fault.message);
    const timeMs = believable(sampleTimeMs(view));
    const heldOn = view.getUint8(0) === FRAME.sourcesHeldOn;
    for (let i = 0; i < sampleCount(view); i++) {
      const value = sampleValue(view, i);
      const source = this.feeds.source(sampleSignal(view, i));
      if (!source) return this.refuse('unknown-signal', `samples[${i}].signal`, `This page has told of no source ${sampleSignal(view, i)}.`);
      if (Number.isFinite(value)) this.inputs.intake.value(source, timeMs, value, heldOn);
      else this.refuse('not-finite', `samples[${i}].value`, `The value of ${source.report.name} must be a finite number.`);
    }
  }

  private takeMidi(view: DataView): void {
    const frame = decodeMidi(view);
    const midi = frame && this.feeds.midi(frame.feed);
    if (!frame || !midi) return this.refuse('malformed-frame', 'feed', 'A MIDI frame names a MIDI input that this page has told of, and has a time.');
    midi.push(frame.bytes, believable(frame.hubTimeMs));
  }

  /** What comes too fast is left out before anybody looks at it, lifts too, so what is held ends; who floods is out. */
  private tooFast(rate: Rate): void {
    if (rate.over === 1) {
      this.played.letGo();
      this.feeds.letGo();
      this.refuse('too-many', 'frame', 'This page says more in a second than can be played: some of it was left out.');
    }
    if (rate.over > FLOOD * LIMITS.messagesPerSecond.host) {
      this.expelled = true;
      this.socket.close(1008, 'too much at once');
    }
  }
}
