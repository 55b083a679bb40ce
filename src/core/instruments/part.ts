import { ALL_SOUND_OFF, endsAllNotes, HOLDING_PEDALS, RESET_CONTROLLERS, SELECT } from '../midi/controllers';
import { BEND_CENTRE, type MidiMessage } from '../midi/message';
import { SelectedParameters } from '../midi/selectedParameters';
import { StreamParser } from '../midi/streamParser';
import type { RigReceiver } from '../rig/document';
import type { ReceiverSound } from './instruments';
import { bendOf, MANAGER_BEND_SEMITONES } from './voices';
import { Zones } from './zone';

/** What an instrument is to do; a key is a note of a channel. */
export interface PartPlayer {
  strike(key: number, frequencyHz: number, strength: number): void;
  release(key: number): void;
  tune(key: number, frequencyHz: number): void;
  /** All sound ends at once, also what no key began. */
  hush(): void;
  /** A parameter goes to a share of its way, 0 to 1. */
  set(parameter: string, share: number): void;
}

const CHANNELS = 16;
const A4 = { note: 69, frequencyHz: 440 };
/** The pedals that hold notes (MIDI 1.0, table III): all of their channel, or those whose keys are down as it goes down. */
const [SUSTAIN, SOSTENUTO, HOLD_2] = HOLDING_PEDALS;
const DOWN = 64;
const RPN = { bendRange: 0, mpeConfiguration: 6 } as const;
/** A member bends by so much unless it is told otherwise (MPE 1.0, appendix A.2). */
const MEMBER_BEND_SEMITONES = 48;

/** The pitch of a note in equal temperament, with a bend in semitones. */
export function frequencyOf(note: number, bendSemitones: number): number {
  return A4.frequencyHz * 2 ** ((note - A4.note + bendSemitones) / 12);
}

/**
 * Reads MIDI as an instrument of sixteen channels does, or one with MPE zones: notes with their bends, pedals that hold them, the bend range by
 * RPN 0, zones by RPN 6, controllers that were learned, and the ends of all notes.
 */
export class Part {
  private readonly parser = new StreamParser((message) => this.hear(message));
  private readonly bends = new Float64Array(CHANNELS).fill(BEND_CENTRE);
  private readonly zones: Zones;
  private readonly ranges: Float64Array;
  private readonly selected = new SelectedParameters();
  /** By channel: which of the pedals that hold all its notes are down. */
  private readonly holds = Array.from({ length: CHANNELS }, () => new Set<number>());
  /** By channel: the keys that the sostenuto pedal took; null while it is up. */
  private readonly taken = new Array<Set<number> | null>(CHANNELS).fill(null);
  /** By key: whether its key is down; one that is up is held by a pedal. */
  private readonly sounding = new Map<number, boolean>();

  constructor(
    private readonly sound: ReceiverSound,
    { bendRangeSemitones, layout }: Pick<RigReceiver, 'bendRangeSemitones' | 'layout'>,
    private readonly player: PartPlayer,
  ) {
    this.ranges = new Float64Array(CHANNELS).fill(bendRangeSemitones);
    this.zones = new Zones(layout);
    for (const manager of [1, 16]) if (this.zones.membersOf(manager).length > 0) this.ranges[manager - 1] = MANAGER_BEND_SEMITONES;
  }

  push(bytes: Uint8Array): void {
    this.parser.push(bytes);
  }

  private hear(message: MidiMessage): void {
    switch (message.kind) {
      case 'noteOn':
        if (message.velocity === 0) return this.up(keyOf(message));
        if (this.sound.parts) this.silence(message.channel);
        this.sounding.set(keyOf(message), true);
        return this.player.strike(keyOf(message), this.frequencyHz(keyOf(message)), message.velocity / 127);
      case 'noteOff':
        return this.up(keyOf(message));
      case 'pitchBend': {
        const { channel, bend } = message;
        this.bends[channel - 1] = bend;
        return this.tuneAgain(channel);
      }
      case 'controlChange':
        return this.controlChange(message.channel, message.controller, message.value);
      default:
        return;
    }
  }

  private controlChange(channel: number, controller: number, value: number): void {
    this.selected.hear(channel, controller, value);
    const parameter = this.selected.of(channel);
    if (parameter?.registered && (controller === SELECT.dataMsb || controller === SELECT.dataLsb)) this.enter(channel, parameter.number, controller === SELECT.dataMsb, value);
    const governed = [channel, ...this.zones.membersOf(channel)];
    if (controller === SUSTAIN || controller === HOLD_2) for (const one of governed) this.hold(one, controller, value >= DOWN);
    if (controller === SOSTENUTO) for (const one of governed) this.sostenuto(one, value >= DOWN);
    if (controller === ALL_SOUND_OFF) {
      for (const one of governed) this.silence(one);
      this.player.hush();
    } else if (endsAllNotes(controller)) for (const one of governed) this.allUp(one);
    if (controller === RESET_CONTROLLERS) for (const one of governed) this.reset(one);
    for (const learned of this.sound.learned) if (learned.channel === channel && learned.controller === controller) this.player.set(learned.parameter, value / 127);
  }

  /** What a reset of all controllers puts back of what it knows (MMA RP-015). */
  private reset(channel: number): void {
    this.selected.forget(channel);
    this.bends[channel - 1] = BEND_CENTRE;
    this.tuneAgain(channel);
    this.hold(channel, SUSTAIN, false);
    this.sostenuto(channel, false);
  }

  private liftPedals(channel: number): void {
    for (const pedal of [SUSTAIN, HOLD_2]) this.hold(channel, pedal, false);
    this.sostenuto(channel, false);
  }

  /** A value for a registered parameter. A range that one member is told counts for all of its zone. */
  private enter(channel: number, parameter: number, isMsb: boolean, value: number): void {
    if (parameter === RPN.mpeConfiguration && isMsb) {
      const before = this.zones.members;
      this.zones.configured(channel, value);
      // Whoever put a pedal down for a member may not lift it for that any more.
      for (const member of new Set([...before, ...this.zones.members])) this.liftPedals(member);
      for (const member of this.zones.membersOf(channel)) this.ranges[member - 1] = MEMBER_BEND_SEMITONES;
      if (this.zones.membersOf(channel).length > 0) this.ranges[channel - 1] = MANAGER_BEND_SEMITONES;
    }
    if (parameter !== RPN.bendRange) return;
    const manager = this.zones.managerOf(channel);
    for (const one of manager === null ? [channel] : this.zones.membersOf(manager)) {
      this.ranges[one - 1] = isMsb ? value : Math.floor(this.ranges[one - 1]!) + value / 100;
      this.tuneAgain(one);
    }
  }

  private frequencyHz(key: number): number {
    const channel = channelOf(key);
    const manager = this.zones.managerOf(channel);
    const bend = (of: number) => bendOf(this.bends[of - 1]!, this.ranges[of - 1]!);
    return frequencyOf(key % 128, bend(channel) + (manager === null ? 0 : bend(manager)));
  }

  /** What sounds on a channel, and on those that it manages, is bent otherwise now. */
  private tuneAgain(channel: number): void {
    const members = this.zones.membersOf(channel);
    for (const key of this.sounding.keys()) if (channelOf(key) === channel || members.includes(channelOf(key))) this.player.tune(key, this.frequencyHz(key));
  }

  private up(key: number): void {
    if (!this.sounding.has(key)) return;
    if (this.isHeld(key)) this.sounding.set(key, false);
    else this.end(key);
  }

  private isHeld(key: number): boolean {
    const channel = channelOf(key) - 1;
    return this.holds[channel]!.size > 0 || this.taken[channel]?.has(key) === true;
  }

  private hold(channel: number, pedal: number, down: boolean): void {
    if (down) this.holds[channel - 1]!.add(pedal);
    else if (this.holds[channel - 1]!.delete(pedal)) this.endLifted(channel);
  }

  private sostenuto(channel: number, down: boolean): void {
    const before = this.taken[channel - 1];
    if (down === (before !== null)) return;
    this.taken[channel - 1] = down ? new Set([...this.sounding].flatMap(([key, isDown]) => (isDown && channelOf(key) === channel ? [key] : []))) : null;
    if (!down) this.endLifted(channel);
  }

  /** A pedal went up: what no key and no other pedal holds ends. */
  private endLifted(channel: number): void {
    for (const [key, isDown] of [...this.sounding]) if (!isDown && channelOf(key) === channel && !this.isHeld(key)) this.end(key);
  }

  /** All keys of a channel go up; what a pedal holds sounds on until that goes up, too. */
  private allUp(channel: number): void {
    for (const key of [...this.sounding.keys()]) if (channelOf(key) === channel) this.up(key);
  }

  private silence(channel: number): void {
    for (const key of [...this.sounding.keys()]) if (channelOf(key) === channel) this.end(key);
  }

  private end(key: number): void {
    this.sounding.delete(key);
    this.taken[channelOf(key) - 1]?.delete(key);
    this.player.release(key);
  }
}

const keyOf = ({ channel, note }: { channel: number; note: number }) => channel * 128 + note;
const channelOf = (key: number) => Math.floor(key / 128);
