import { isTransportAlone, type SceneTransport } from '../rig/sceneTransport';
import type { RigDocument } from '../rig/document';
import { calibrated, endOf, withoutNoise } from '../signal/calibration';
import type { VoiceEvent } from '../voices/event';
import { cameBack } from './cameBack';
import { carryMappingsOn, moveDerived, setSignal, settleConstants } from './drive';
import { Ensemble } from './ensemble/ensemble';
import type { EngineEvent, SampleEvent } from './event';
import { toLog } from './eventLog';
import { moveGlides, springBack } from './glides';
import { loadRig } from './loadRig';
import { freshMemory } from './memory';
import { NotePlayer } from './notePlayer';
import { HAND, passTo, TAKE, thruOf } from './pass';
import { compile, type Plan } from './plan';
import { wanted, type Running, type Ways } from './running';
import { restoreSignal } from './restore';
import { sayAgain, setUpReceiver, show } from './say';
import { lookAtDerivedTriggers, recallScene, scenesTriggeredBy, scenesTriggeredByDerived } from './scenes';
import { silenceAll } from './send';
import { BY_HAND, BY_TAKE, BY_THRU, type MessageSink } from './sink';
import { keepState, resume, type EngineState } from './state';
import { Transport } from './transport';
import { EngineView } from './view';
import { carryVoicesOn } from './voices/axes';
import { takePedal } from './voices/pedals';
import { takeVoice } from './voices/play';
import { endStream, forgetVoices } from './voices/switching';
import { endOscVoices } from './voices/sayOsc';
import { waysFor } from './ways';

/**
 * Runs a rig: events go in by `take`, messages come out of the sink in the same call. It has no clock and no chance of its
 * own: the same rig, seed and events give the same messages. Times are in ms of one clock of the caller's; an earlier one
 * than the latest counts as the latest. Nothing here throws on a sample, whatever its value.
 */
export class Engine extends EngineView {
  protected readonly r: Running;
  protected readonly transport: Transport;
  /** Inputs with a thru, in the order in which they were first heard; their place makes them owners of notes. */
  private readonly thrus: string[] = [];
  /** The time of the message that the sink is being given. */
  messageMs = NaN;
  private readonly at = (timeMs: number) => {
    this.messageMs = timeMs;
  };

  constructor(
    rig: RigDocument,
    private readonly sink: MessageSink,
    private readonly seed = 1,
    /** What another with this rig and seed remembers (`state`): this one goes on from there. Throws where it is not of this rig. */
    state: EngineState | null = null,
  ) {
    super();
    const plan = compile(rig, seed, null, state?.addresses);
    this.r = { ...this.ways(plan), plan, memory: freshMemory(plan), due: Float64Array.of(Infinity), ensembleDue: Float64Array.of(Infinity), movedMembers: false, nowMs: -Infinity, saysAnyway: false, heldOn: false } as Running;
    this.transport = this.r.transport = new Transport(this.r);
    this.r.ensemble = new Ensemble(this.r, this.transport, this.at);
    this.r.player = new NotePlayer(this.r, this.transport);
    if (state) resume(this.r, this.thrus, state);
  }

  /** All that it remembers, as plain data; an engine that is given it says from there on what this one says. */
  get state(): EngineState {
    return keepState(this.r, this.thrus);
  }

  /** Everything that changes the engine comes in here. False where an event names something that the rig does not have. */
  take(event: EngineEvent): boolean {
    const { r } = this;
    if (event.timeMs > r.nowMs) {
      if (r.nowMs === -Infinity) this.transport.begin(event.timeMs);
      r.nowMs = event.timeMs;
    }
    // What the ensemble has to say before this is said before it. An event that names what is not there is in no log, so nothing comes of it.
    if (r.ensembleDue[0]! <= r.nowMs && toLog(event, r.plan)) r.ensemble.run(r.nowMs);
    this.messageMs = r.nowMs;
    return event.kind === 'sample' ? this.sample(event) : this.takeOther(event);
  }

  /** Apart from `take`, which must stay short to be quick. */
  private takeOther(event: Exclude<EngineEvent, { kind: 'sample' }>): boolean {
    const { r } = this;
    switch (event.kind) {
      case 'heldOn':
        return this.heldOn(event);
      case 'on':
      case 'move':
      case 'off':
        return this.voice(event);
      case 'pedal':
        r.ensemble.pedal(event.stream, event.controller, event.value);
        return takePedal(r, event.stream, event.controller, event.value);
      case 'endStream':
        r.ensemble.endStream(event.stream);
        return endStream(r, event.stream);
      case 'tick':
        return this.tick();
      case 'start':
        settleConstants(r);
        endOscVoices(r);
        lookAtDerivedTriggers(r);
        return true;
      case 'rig':
        return loadRig(r, event.rig, this.seed, (plan) => this.ways(plan));
      case 'recall':
        return this.recall(event.scene);
      case 'restore':
        return restoreSignal(r, event.signal, event.value);
      case 'tempo':
        this.transport.follow(event.bpm, event.beat);
        return this.timeChanged();
      case 'tapped':
        this.transport.tapped(event.bpm);
        return this.timeChanged();
      case 'transport':
        return this.control(event.does);
      case 'goTo':
        this.transport.goTo(event.beat);
        return this.timeChanged();
      case 'nudge':
        this.transport.nudge(event.beats);
        return this.timeChanged();
      case 'show':
        return show(r, event.mapping, event.level);
      case 'sayAgain':
        return sayAgain(r, event.mappings);
      case 'pass':
        return passTo(r, thruOf(this.thrus, event.input), event.output, event.bytes, BY_THRU);
      case 'send':
        return passTo(r, HAND, event.output, event.bytes, BY_HAND);
      case 'play':
        return passTo(r, TAKE, event.output, event.bytes, BY_TAKE);
      case 'endTake':
        r.notes.endAll(TAKE);
        return true;
      case 'endThru':
        r.notes.endAll(thruOf(this.thrus, event.input));
        return true;
      case 'cameBack':
        return cameBack(r, event.mapping, event.value, event.signalValue);
      case 'setUp':
        return setUpReceiver(r, event.output);
      case 'panic':
        this.control('stop');
        silenceAll(r);
        r.ensemble.forget();
        return true;
      case 'release':
        r.notes.each(({ output, channel, note }) => r.notes.endKey(output, channel, note));
        forgetVoices(r);
        r.ensemble.forget();
        return true;
      default:
        return event satisfies never;
    }
  }

  /** A value that is not a number is left out, infinity is the end of the range. */
  private sample({ signal, value }: Pick<SampleEvent, 'signal' | 'value'>): boolean {
    const { r } = this;
    const { plan, memory } = r;
    const calibration = plan.calibrations[signal];
    if (calibration === undefined || Number.isNaN(value)) return false;
    if (memory.glides.size > 0) memory.glides.delete(signal);
    let nominal = value;
    if (!Number.isFinite(value)) nominal = endOf(plan.rig.signals[signal]!.range, value);
    else if (calibration) {
      memory.letThrough[signal] = withoutNoise(calibration, value, memory.letThrough[signal]!);
      nominal = calibrated(calibration, memory.letThrough[signal]!);
    }
    const before = memory.values[signal]!;
    memory.times.heard(signal, r.nowMs, nominal !== before);
    setSignal(r, signal, nominal);
    if (plan.hasConsequences) this.follow(signal, before > 0 && !(value > 0));
    return true;
  }

  /** What a sample has for consequences besides what it drives; apart from `sample`, which must stay short to be quick. */
  private follow(signal: number, isLetGo: boolean): void {
    if (isLetGo) springBack(this.r, signal);
    this.recallAll(scenesTriggeredBy(this.r, signal));
    if (this.r.plan.hasDerivedTriggers) this.recallAll(scenesTriggeredByDerived(this.r));
  }

  private heldOn(event: Pick<SampleEvent, 'signal' | 'value'>): boolean {
    this.r.heldOn = true;
    const isKnown = this.sample(event);
    this.r.heldOn = false;
    return isKnown;
  }

  /** Carries on what moves without samples. */
  private tick(): true {
    const { r } = this;
    r.due[0] = Infinity;
    this.transport.tick(this.at);
    this.messageMs = r.nowMs;
    if (r.memory.glides.size > 0) moveGlides(r);
    if (r.moving.size > 0) moveDerived(r);
    if (r.plan.hasDerivedTriggers) for (const scene of scenesTriggeredByDerived(r)) this.recall(scene);
    carryMappingsOn(r);
    carryVoicesOn(r);
    wanted(r, r.ensembleDue[0]!);
    r.memory.times.tickMs = r.nowMs;
    return true;
  }

  private voice(event: VoiceEvent): boolean {
    const { r } = this;
    if (!takeVoice(r, event)) return false;
    r.ensemble.voice(event, true);
    return true;
  }

  private control(does: SceneTransport): true {
    this.transport.does(does);
    return this.timeChanged();
  }

  /** What was due is due at another time now. */
  private timeChanged(): true {
    this.r.ensemble.want();
    this.transport.tick(this.at);
    this.r.movedMembers = true;
    return true;
  }

  private recallAll(scenes: readonly string[]): void {
    if (!this.r.heldOn) for (const scene of scenes) this.recall(scene);
  }

  private recall(id: string): boolean {
    const scene = this.r.plan.rig.scenes.find((one) => one.id === id);
    if (!scene) return false;
    // A tap ends no note that another scene began.
    if (!isTransportAlone(scene)) recallScene(this.r, scene);
    // What a scene has moved recalls no other.
    lookAtDerivedTriggers(this.r);
    if (scene.transport) this.control(scene.transport);
    this.sink.recalled?.(id);
    return true;
  }

  private ways(plan: Plan): Ways {
    return waysFor(plan, this.sink, () => this.r);
  }
}
