import type { Harmony } from '../../ensemble/kind';
import { SAME_MS } from '../../time/musicalTime';
import { voiceEvent, type VoiceEvent } from '../../voices/event';
import { takeVoice } from '../voices/play';
import { wanted, type Running } from '../running';
import type { Transport } from '../transport';
import { PAUSE_MS } from '../transport';
import { HeldVoices } from './heldVoices';
import { carryEnsemble, goesOn } from './memory';
import { levelOf, type Beats } from './knowing';
import { Player } from './player';
import type { Plan } from '../plan';

/**
 * The ensemble of an engine: hands what happens to the members that listen, and calls them when something of theirs is due. What
 * they let sound goes the way of all voices: to the voice mappings of their stream, and to members that listen to them.
 */
export class Ensemble implements Beats {
  private players: Player[] = [];
  private readonly event: VoiceEvent = voiceEvent();
  private readonly heldVoices: HeldVoices = new HeldVoices(
    () => this.r.memory.ensemble,
    (stream, held, on) => {
      const { plan } = this.r;
      for (const i of plan.ensemble.listeners[stream]!) this.players[i]!.hear(plan.streamIds[stream]!, held, on);
    },
  );
  /** The time of what is done now: while something that was due is made up for, when that was. */
  nowMs = NaN;
  /** While something is done because its time has come, and nobody's gesture is its cause. */
  isDue = false;
  /** While a value of an earlier run is put back: nobody plays it, so it starts nothing. */
  isRestored = false;

  constructor(
    private readonly r: Running,
    readonly transport: Transport,
    /** Told the time of what leaves, where that is not now. */
    private readonly at: (timeMs: number) => void,
  ) {
    transport.onMoved = () => this.begin();
    transport.onStopped = () => this.silence();
    this.adopt();
  }

  get seed(): number {
    return this.r.plan.seed;
  }

  /** Whether a sound of another input may be what the transport waits for. */
  private get waitsForFirst(): boolean {
    return this.r.plan.rig.startsBy === 'first note' && !this.transport.running;
  }

  private adopt(): void {
    const { plan, memory } = this.r;
    this.players = plan.ensemble.members.map((member, i) => new Player(this, member, memory.ensemble.members[i]!, i));
  }

  /** Before another plan comes into force: members that it does not keep end what sounds. */
  leave(plan: Plan): void {
    const { plan: oldPlan } = this.r;
    this.nowMs = this.r.nowMs;
    oldPlan.ensemble.members.forEach((member, i) => {
      if (!goesOn(member, plan.ensemble.members.find(({ rig }) => rig.id === member.rig.id), oldPlan, plan)) this.players[i]!.endAll();
    });
  }

  /** Another plan is in force. What is not heard any more ends. */
  carry(old: Running['memory']['ensemble'], oldPlan: Plan): void {
    const { r } = this;
    r.memory.ensemble = carryEnsemble(old, oldPlan, r.plan);
    this.nowMs = r.nowMs;
    this.adopt();
    this.players.forEach((player, i) => {
      if (!this.isHeard(i)) this.mute(player);
      const { id } = r.plan.ensemble.members[i]!.rig;
      player.edited(oldPlan.ensemble.members.find(({ rig }) => rig.id === id)?.rig.part);
    });
    this.want();
  }

  /** What an engine remembers was put back. */
  resume(): void {
    this.adopt();
    this.want();
  }

  /** A voice of any stream begins, moves or ends. @param isOutside whether it comes of an input, and no member made it */
  voice(event: VoiceEvent, isOutside: boolean): void {
    const { r } = this;
    const listeners = r.plan.ensemble.listeners[event.stream];
    if (!listeners || listeners.length === 0) return;
    if (isOutside) this.nowMs = r.nowMs;
    if (event.kind === 'move') {
      if (!Number.isNaN(event.pressure) || !Number.isNaN(event.slide)) for (const i of listeners) this.players[i]!.moved(event.pressure, event.slide);
      return;
    }
    if (event.kind === 'off') this.heldVoices.off(event.stream, event.voice);
    else {
      this.heldVoices.giveWay(event.stream, event.voice, event.pitch);
      if (isOutside && this.waitsForFirst) this.transport.does('start');
      this.heldVoices.on(event.stream, event.voice, event.pitch, event.strike);
    }
    if (isOutside) this.want();
  }

  /** A pedal of a stream. */
  pedal(stream: number, controller: number, value: number): void {
    this.nowMs = this.r.nowMs;
    this.heldVoices.pedal(stream, controller, value);
    this.want();
  }

  /** A stream went: what was held of it ends for those that listen. */
  endStream(stream: number): void {
    this.nowMs = this.r.nowMs;
    this.heldVoices.endStream(stream);
    this.want();
  }

  /** Whether a member is on, by the document or the scene that spoke last of it. */
  isSwitchedOn(member: number): boolean {
    return this.r.memory.ensemble.on[member]! > 0;
  }

  get heldOn(): boolean {
    return this.r.heldOn;
  }

  /** A signal that members follow has another value. */
  follow(signal: number): void {
    const { ensemble } = this.r.plan;
    this.nowMs = this.r.nowMs;
    const level = this.levelOf(signal);
    if (level > 0 && !this.isRestored && !this.heldOn && this.waitsForFirst && ensemble.followers[signal]!.some((i) => this.players[i]!.isAskedBy(signal))) this.transport.does('start');
    for (const i of ensemble.followers[signal]!) this.players[i]!.follow(signal, level);
    this.want();
  }

  followEdit(signal: number): void {
    this.nowMs = this.r.nowMs;
    for (const i of this.r.plan.ensemble.followers[signal]!) this.players[i]!.followEdit(signal, this.levelOf(signal));
    this.want();
  }

  levelOf(signal: number): number {
    return levelOf(this.r, signal);
  }

  wayMsOf(signal: number): number {
    return this.nowMs - this.r.memory.times.wayBeganMs(signal);
  }

  harmony(stream: string): Harmony | null {
    const member = this.r.plan.ensemble.members.findIndex(({ rig }) => rig.id === stream);
    const player = this.players[member];
    if (player?.hasHarmony) return player.harmonyNow;
    const held = this.r.memory.ensemble.held[this.r.plan.streamIndex.get(stream) ?? -1] ?? [];
    const tones = held.map(({ pitch }) => Math.round(pitch)).sort((a, b) => a - b);
    return tones.length === 0 ? null : { root: ((tones[0]! % 12) + 12) % 12, tones };
  }

  /** Does what is due up to a time, in its order. */
  run(untilMs: number): void {
    this.isDue = true;
    for (;;) {
      const { dueMs } = this;
      if (dueMs > untilMs || dueMs === Infinity) break;
      // After a long pause nothing is made up for but the ends.
      this.nowMs = Math.max(dueMs, untilMs - PAUSE_MS);
      this.at(this.nowMs);
      // Of several at one time first the one that the others listen to.
      this.players.find((player) => player.dueMs <= dueMs + SAME_MS)!.due(untilMs - dueMs > PAUSE_MS);
    }
    this.isDue = false;
    this.nowMs = untilMs;
    this.want();
  }

  get dueMs(): number {
    let dueMs = Infinity;
    for (const player of this.players) dueMs = Math.min(dueMs, player.dueMs);
    return dueMs;
  }

  /** Tells when something is due. */
  want(): void {
    const { dueMs } = this;
    this.r.ensembleDue[0] = dueMs;
    wanted(this.r, dueMs);
  }

  /** One voice of a member begins, moves or ends; it may be used again after the call. */
  emit(i: number, kind: VoiceEvent['kind'], voice: number, pitch: number, strike: number, pressure = NaN, slide = NaN): void {
    const { r, event } = this;
    const said = { ...event, kind, stream: r.plan.ensemble.members[i]!.stream, voice, pitch, strike, pressure, slide, release: NaN };
    if (kind === 'off' || this.isHeard(i)) takeVoice(r, said);
    this.voice(said, false);
    r.movedMembers = true;
  }

  isHeard(i: number): boolean {
    const { memory, plan } = this.r;
    const isAlone = (member: Plan['ensemble']['members'][number]) => member.rig.alone === true;
    return memory.ensemble.on[i]! > 0 && (isAlone(plan.ensemble.members[i]!) || !plan.ensemble.members.some(isAlone));
  }

  /** Switches a member on or off while playing. What is held when it comes on is not struck by that. */
  switchMember(i: number, on: boolean): void {
    this.r.memory.ensemble.on[i] = Number(on);
    if (!this.isHeard(i)) this.mute(this.players[i]!);
    this.r.movedMembers = true;
  }

  /** It is not heard any more; those that listen to it hear it still. */
  private mute(player: Player): void {
    const { r } = this;
    for (const { voice } of player.state.sounding) takeVoice(r, { ...voiceEvent('off'), stream: player.member.stream, voice });
  }

  /** The piece begins anew, or goes on from elsewhere. */
  private begin(): void {
    this.nowMs = this.r.nowMs;
    for (const player of this.players) player.begin();
    this.want();
  }

  /** Everything that members let sound ends, and what was to come does not. */
  silence(): void {
    this.nowMs = this.r.nowMs;
    for (const player of this.players) player.rest();
    for (const player of this.players) player.settle();
    this.want();
    this.r.movedMembers = true;
  }

  /** Everything was silenced by others: nothing is known to be held any more. */
  forget(): void {
    this.heldVoices.forget();
    for (const player of this.players) player.hush();
    this.want();
  }

  /** What the members do now, to be shown. */
  shown(): { id: string; on: boolean; pitches: number[]; harmony: Harmony | null; step: number }[] {
    const { on } = this.r.memory.ensemble;
    return this.players.map(({ member, state, harmonyNow }, i) => ({ id: member.rig.id, on: on[i]! > 0, pitches: state.sounding.map(({ pitch }) => pitch).sort((a, b) => a - b), harmony: harmonyNow, step: Number.isNaN(state.anchorBeat) || !Number.isNaN(state.restsMs) ? -1 : state.step - 1 }));
  }
}
