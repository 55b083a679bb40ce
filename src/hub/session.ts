import type { Logger } from 'pino';
import type { RawData, WebSocket } from 'ws';
import type { RigDocument, RigSurface } from '../core/rig/document';
import { flatControls, surfaceSignals } from '../core/surface/controlKinds';
import { CLOSED_NOT_JOINED, type DeviceLeave } from '../protocol/devices';
import { decodeMidi, FRAME, sampleCount, samplesFault, sampleSignal, sampleTimeMs, sampleValue } from '../protocol/frames';
import { LIMITS } from '../protocol/limits';
import { LIVE_VERSION, type FromPage, type IntroduceHow, type ToPage, type Watch } from '../protocol/live';
import { checkFromPage } from '../protocol/liveSchema';
import type { MadeEdit } from '../protocol/madeEdit';
import type { ProblemCode } from '../protocol/problem';
import { BadFrames } from './badFrames';
import type { Inputs } from './inputs';
import type { Introduction } from './introduction';
import { PageDevices } from './inputs/pageDevices';
import { RawList } from './inputs/rawList';
import type { Numbering } from './numbering';
import { PageWatch } from './pageWatch';
import type { Player } from './player';
import { Rate } from './rate';
import { hubTimeMs } from './time';
import { Watcher } from './watcher';

/** Who goes so far beyond its rate is not playing. */
const FLOOD = 20;

/** One page on the live line: checks what it sends, hands it to the player, shows it what it watches. */
export class Session {
  readonly watcher: Watcher;
  /** The surface this page plays, or null for the screens of the bench. */
  surface: string | null = null;
  private answered = true;
  private expelled = false;
  private readonly watching: PageWatch;
  private readonly messages: Rate;
  private readonly frames: Rate;
  private known: { rig: RigDocument | null; surface: string | null } | null = null;
  private readonly badFrames = new BadFrames();
  /** The signals that this page may send, and those of them that are gates. */
  private allowed = new Set<number>();
  private gates = new Set<number>();
  private readonly heldGates = new Set<number>();
  private readonly devices: PageDevices;
  private raw: RawList | null = null;
  /** The introduction that this page began. */
  private introduction: Introduction | null = null;
  /** Signals that this page wants held back. */
  heldBack: string[] = [];

  constructor(
    private readonly socket: WebSocket,
    private readonly player: Player,
    private readonly inputs: Inputs,
    private readonly log: Logger,
    private readonly onPresence: () => void,
    /** The joined device whose page it is; null for a page on this computer, which may do everything. */
    public device: DeviceLeave | null = null,
  ) {
    this.devices = new PageDevices(player, inputs.intake, device?.id ?? null);
    this.watcher = new Watcher(socket, player, 500);
    this.watching = new PageWatch(socket, player, this.watcher);
    const who = device ? 'device' : 'host';
    this.messages = new Rate(LIMITS.messagesPerSecond[who]);
    this.frames = new Rate(LIMITS.framesPerSecond[who]);
    player.audience.add(this.watcher);
    socket.on('message', (data, isBinary) => this.receive(data, isBinary));
    socket.on('pong', () => (this.answered = true));
  }

  /** What the device was given may be another surface than before: from here on it plays the former one no more. */
  give(device: DeviceLeave): void {
    this.device = device;
    if (this.surface === null || this.surface === device.surface) return;
    this.letGo();
    this.surface = null;
    this.allowSignals();
    this.send({ kind: 'given', surface: device.surface });
    this.onPresence();
  }

  /** The device was dropped: not a frame of it counts from here. */
  expel(): void {
    this.expelled = true;
    this.socket.close(CLOSED_NOT_JOINED, 'dropped');
  }

  send(message: ToPage): void {
    if (this.socket.bufferedAmount > LIMITS.socketBacklogBytes) return this.socket.terminate();
    this.socket.send(JSON.stringify(message));
  }

  /** After the rig changed: numbers may be new, and so may what this page is allowed to send. */
  rigChanged(made?: MadeEdit): void {
    const { player } = this;
    this.allowSignals();
    this.sendNames();
    // Screens of the bench have the whole rig and make the same edit on it; a joined device is shown its surface alone.
    if (made && !this.device && this.surface === null) this.send({ kind: 'edited', made });
    else this.send({ kind: 'rig', rig: player.rigId, revision: player.revision, stage: player.stage });
    this.devices.rigChanged();
  }

  private sendNames(): void {
    const names = this.watching.newNames();
    if (names) this.send({ kind: 'names', names });
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
    this.letGo();
    this.devices.close();
    this.raw?.close();
    this.heldBack = [];
    this.inputs.heldBackChanged();
    // Whoever introduces a mapping and leaves ends it.
    if (this.introduction && this.introduction === this.player.introduction && this.player.endIntroduction()) this.inputs.introductionChanged();
  }

  /** Releases the gates that this page holds. */
  private letGo(): void {
    for (const number of this.heldGates) this.release(number);
  }

  /** A gate that another page has pressed since is that one's: a page that is back is often there before its old line ends. */
  private release(number: number): void {
    this.heldGates.delete(number);
    if (this.player.pressedBy.get(number) !== this.watcher) return;
    this.player.pressedBy.delete(number);
    this.player.sample(number, hubTimeMs(), 0, this.watcher);
  }

  private receive(data: RawData, isBinary: boolean): void {
    if (this.expelled) return;
    const rate = isBinary ? this.frames : this.messages;
    if (!rate.allows(hubTimeMs())) return this.tooFast(rate);
    const bytes = data as Buffer;
    if (isBinary) {
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      if (bytes[0] === FRAME.midi) return this.receiveMidi(view);
      return bytes[0] === FRAME.sources ? this.receiveSources(view) : this.receiveSamples(view);
    }
    let parsed: unknown;
    try {
      parsed = JSON.parse(bytes.toString('utf8'));
    } catch {
      return this.refuse('malformed-json', 'frame', 'A text frame must be JSON.');
    }
    const message = checkFromPage(parsed, this.device !== null);
    if (message === 'forbidden') return this.refuse('forbidden', (parsed as FromPage).kind, 'A joined device plays its surface; the rest is for the host alone.');
    if (!message.ok) {
      const { field, message: sentence } = message.problems[0]!;
      return this.refuse('invalid', field, sentence);
    }
    this.obey(message.value);
  }

  /** What comes too fast is left out before anybody looks at it, lifts too, so what is held ends; who floods is out. */
  private tooFast(rate: Rate): void {
    if (rate.over === 1) {
      this.letGo();
      this.devices.letGo();
      this.refuse('too-many', 'frame', 'This page says more in a second than can be played: some of it was left out.');
    }
    if (rate.over > FLOOD * LIMITS.messagesPerSecond.host) {
      this.expelled = true;
      this.socket.close(1008, 'too much at once');
    }
  }

  private obey(message: FromPage): void {
    switch (message.kind) {
      case 'hello':
        return this.welcome(message.version, message.surface);
      case 'watch':
        return this.device ? undefined : this.applyWatch(message.watch);
      case 'watchList':
        return this.watching.change(message.what, message.add, message.remove);
      case 'ping':
        return this.send({ kind: 'pong', pageTimeMs: message.pageTimeMs, hubTimeMs: hubTimeMs() });
      case 'panic':
        this.log.info('panic');
        return this.player.panic();
      case 'recall':
        return this.recall(message.scene);
      case 'try':
        this.surface = message.surface;
        this.letGo();
        return this.allowSignals();
      case 'device': {
        const numbered = this.devices.tell(message);
        if (!numbered) return this.refuse('too-many', 'device', `A page may bring at most ${LIMITS.devicesPerPage} devices with ${LIMITS.sourcesPerDevice} sources each: this one has brought more; load it anew.`);
        return this.send({ kind: 'device', device: message.device, ...numbered });
      }
      case 'deviceGone':
        return this.devices.gone(message.device);
      case 'holdBack':
        this.heldBack = message.signals;
        return this.inputs.heldBackChanged();
      case 'introduce':
        return this.introduce(message.mapping, message.how ?? 'sweep');
      case 'standIn':
        if (!this.inputs.standIns.set(message.standIn, message.on, message.settings ?? {})) this.refuse('not-found', 'standIn', `There is no stand-in "${message.standIn}".`);
        return;
      case 'knob':
        if (!this.inputs.standIns.move(message.standIn, message.knob, message.value)) this.refuse('not-found', 'knob', `There is no knob "${message.knob}" on a stand-in "${message.standIn}".`);
        return;
      default:
        return message satisfies never;
    }
  }

  private introduce(mapping: string | null, how: IntroduceHow): void {
    const { player } = this;
    if (mapping !== null && !player.introduce(mapping, how)) return this.refuse('not-found', 'mapping', `"${mapping}" cannot be introduced: it is not a mapping of this rig, or Pumice is on Stage.`);
    if (mapping === null) player.endIntroduction();
    this.introduction = player.introduction;
    this.inputs.introductionChanged();
  }

  private welcome(version: number, surface: string | undefined): void {
    if (version !== LIVE_VERSION) {
      return this.refuse('invalid', 'version', `This page speaks version ${version} of the live line, the hub ${LIVE_VERSION}: reload the page.`);
    }
    const { player, device } = this;
    if (device && surface !== undefined && surface !== device.surface) return this.send({ kind: 'given', surface: device.surface });
    this.surface = surface ?? null;
    this.allowSignals();
    this.send({
      kind: 'welcome',
      version: LIVE_VERSION,
      hubTimeMs: hubTimeMs(),
      names: this.watching.newNames() ?? { signals: [], mappings: [], outputs: [] },
      rig: player.rigId,
      revision: player.revision,
      stage: player.stage,
    });
    this.showPage();
    if (player.introduction) this.showIntroduction();
    this.onPresence();
  }

  /** A joined device recalls the scenes that its surface has buttons for. */
  private recall(scene: string): void {
    const onSurface = () => this.surfaceNow?.pages.some(({ controls }) => flatControls(controls).some((control) => control.kind === 'scene' && control.scene === scene)) ?? false;
    if (this.device && !onSurface()) return this.refuse('forbidden', 'scene', 'This surface has no button for that scene.');
    if (!this.player.recall(scene)) this.refuse('not-found', 'scene', `There is no scene "${scene}" in this rig.`);
  }

  /** Tells which mapping is introduced. */
  showIntroduction(): void {
    const { introduction } = this.player;
    this.send({ kind: 'introducing', mapping: introduction?.id ?? null, untilHubMs: introduction?.untilHubMs ?? 0 });
  }

  /** Tells a play page which page and bank of its surface to show. */
  showPage(): void {
    const turned = this.surface === null ? undefined : this.player.turned.get(this.surface);
    if (turned) this.send({ kind: 'page', ...turned });
  }

  showMappingStates(): void {
    if (this.watcher.mappingStates) this.send({ kind: 'mappingStates', states: this.player.mappingStates });
  }

  private receiveSamples(view: DataView): void {
    const fault = samplesFault(view);
    if (fault) return this.refuse('malformed-frame', fault.field, fault.message);
    const count = sampleCount(view);
    for (let i = 0; i < count; i++) {
      const number = sampleSignal(view, i);
      if (!this.allowed.has(number)) {
        const name = (this.device ? undefined : this.player.signals.idOf(number)) ?? `number ${number}`;
        return this.refuse('unknown-signal', `samples[${i}].signal`, `This page has no control with the signal ${name}.`);
      }
      if (!Number.isFinite(sampleValue(view, i))) {
        return this.refuse('not-finite', `samples[${i}].value`, `The value of ${this.player.signals.idOf(number)} must be a finite number.`);
      }
    }
    const timeMs = believable(sampleTimeMs(view));
    for (let i = 0; i < count; i++) this.play(sampleSignal(view, i), timeMs, sampleValue(view, i));
  }

  /** Values of devices at this page, by source number. One that is not a number is left out and counted as bad. */
  private receiveSources(view: DataView): void {
    const fault = samplesFault(view);
    if (fault) return this.refuse('malformed-frame', fault.field, fault.message);
    const timeMs = believable(sampleTimeMs(view));
    for (let i = 0; i < sampleCount(view); i++) {
      const value = sampleValue(view, i);
      const source = this.devices.source(sampleSignal(view, i));
      if (!source) return this.refuse('unknown-signal', `samples[${i}].signal`, `This page has told of no source ${sampleSignal(view, i)}.`);
      if (Number.isFinite(value)) this.inputs.intake.value(source, timeMs, value);
      else this.refuse('not-finite', `samples[${i}].value`, `The value of ${source.report.name} must be a finite number.`);
    }
  }

  private receiveMidi(view: DataView): void {
    const frame = decodeMidi(view);
    const midi = frame && this.devices.midi(frame.device);
    if (!frame || !midi) return this.refuse('malformed-frame', 'device', 'A MIDI frame names a MIDI device that this page has told of, and has a time.');
    midi.push(frame.bytes, believable(frame.hubTimeMs));
  }

  private play(number: number, timeMs: number, value: number): void {
    if (this.gates.has(number)) {
      if (value > 0) {
        this.heldGates.add(number);
        this.player.pressedBy.set(number, this.watcher);
      } else this.heldGates.delete(number);
    }
    this.player.sample(number, timeMs, value, this.watcher);
  }

  private allowSignals(): void {
    const { rig, signals } = this.player;
    // Most edits touch neither signals nor surfaces.
    if (this.known && this.known.surface === this.surface && this.known.rig?.signals === rig?.signals && this.known.rig?.surfaces === rig?.surfaces) return;
    this.known = { rig, surface: this.surface };
    const { plays, shows } = this.surfaceNow ? surfaceSignals(this.surfaceNow) : { plays: [], shows: [] };
    this.allowed = new Set(numbersOf(signals, plays));
    // Its lift would be refused.
    for (const number of this.heldGates) if (!this.allowed.has(number)) this.release(number);
    this.gates = new Set(numbersOf(signals, rig?.signals.flatMap(({ id, kind }) => (kind === 'gate' ? [id] : []))));
    if (this.device) this.watching.limitTo(new Set(numbersOf(signals, [...plays, ...shows])));
  }

  private get surfaceNow(): RigSurface | undefined {
    return this.player.rig?.surfaces.find((candidate) => candidate.id === this.surface);
  }

  private applyWatch(watch: Watch): void {
    const { player, watcher } = this;
    watcher.monitor = watch.monitor === true;
    watcher.activity = watch.activity === true;
    watcher.inputs = watch.inputs === true;
    const newToStates = watch.mappingStates === true && !watcher.mappingStates;
    watcher.mappingStates = watch.mappingStates === true;
    if (newToStates) this.showMappingStates();
    player.audience.changed();
    this.applyRaw(watch.raw ?? null);
    this.onPresence();
  }

  private applyRaw(input: string | null): void {
    if ((this.raw?.input ?? null) === input) return;
    this.raw?.close();
    this.raw = input !== null ? new RawList(input, this.inputs.intake, (lines, dropped) => this.send({ kind: 'raw', input, lines, dropped })) : null;
  }

  private refuse(code: ProblemCode, field: string, message: string): void {
    const { log, close } = this.badFrames.add();
    if (log) this.log.warn({ code, field, surface: this.surface }, message);
    if (close) return this.socket.close(1008, 'too many bad frames');
    this.send({ kind: 'problem', problem: { code, field, message } });
  }
}

/** A page's clock is only an estimate of ours: a sample cannot lie in the future, nor far in the past. */
function believable(saidMs: number): number {
  const nowMs = hubTimeMs();
  return saidMs > nowMs || saidMs < nowMs - LIMITS.sampleAgeMs ? nowMs : saidMs;
}

function numbersOf(numbering: Numbering, ids: readonly string[] = []): number[] {
  return ids.map((id) => numbering.find(id)).filter((number) => number !== undefined);
}
