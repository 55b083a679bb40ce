import { noteName } from '../midi/describe';
import { endsAllNotes, RESET_CONTROLLERS, RESET_PEDALS, SELECT } from '../midi/controllers';
import { BEND_CENTRE, type MidiMessage } from '../midi/message';
import { SelectedParameters } from '../midi/selectedParameters';
import type { RigStream } from '../rig/voices';
import { voiceEvent, type VoiceEvent } from './event';

/** Which notes of a MIDI input a stream has, as its `source` says it. */
export type NotesOf = { of: 'all' } | { of: 'channel'; channel: number } | { of: 'keys'; low: number; high: number } | { of: 'zone'; zone: 'lower' | 'upper' };

/** What a source says; all notes where it says nothing that is known. */
export function notesOf(source: string | undefined): NotesOf {
  const [word, first = '', second = ''] = (source ?? 'all').split(' ');
  if (word === 'channel' && Number(first) >= 1 && Number(first) <= CHANNELS) return { of: 'channel', channel: Number(first) };
  if (word === 'keys' && first !== '' && second !== '') return { of: 'keys', low: Number(first), high: Number(second) };
  if (word === 'zone' && (first === 'lower' || first === 'upper')) return { of: 'zone', zone: first };
  return { of: 'all' };
}

export function notesInWords(source: string | undefined): string {
  const notes = notesOf(source);
  switch (notes.of) {
    case 'all':
      return 'all notes, whatever channel';
    case 'channel':
      return `notes of channel ${notes.channel}`;
    case 'keys':
      return `keys ${noteName(notes.low)} to ${noteName(notes.high)}`;
    case 'zone':
      return `the ${notes.zone} MPE zone`;
  }
}

/** Hears of the voices of a stream, by its id, and of its pedals. The event is used again after the call. */
export interface StreamListener {
  voice(stream: string, event: VoiceEvent): void;
  pedal(stream: string, controller: number, value: number): void;
}

const CHANNELS = 16;
const MOST = 127;
const SLIDE = 74;
const FIRST_PEDAL = 64;
const LAST_PEDAL = 69;
const BEND_RANGE_RPN = 0;
const MPE_RPN = 6;
/** Where nobody said otherwise (MIDI 1.0; MPE 1.0, section 2.4). */
const PLAIN_BEND_SEMITONES = 2;
const MEMBER_BEND_SEMITONES = 48;

/** What of a channel is put back. */
const AT_REST = { bend: 0, pressure: 0 };

interface Channel {
  /** -1 to 1, before its range. */
  bend: number;
  bendSemitones: number;
  pressure: number;
  slide: number;
  /** Bends, pressure or slide came here that no other channel had a part in. */
  moves: boolean;
}

interface Sounding {
  channel: number;
  note: number;
  pressure: number;
  /** The streams that it began in: it ends there, whatever they take by then. */
  streams: string[];
}

/**
 * The notes of a MIDI input as voices, plain or MPE: each note is bent, pressed and slid by what its channel says, and in a zone
 * (MPE 1.0: RPN 6 on channel 1 or 16) by what its manager says besides. A device that sends MPE and does not say so is known by
 * notes that sound on two channels at once, both of which were bent or slid: a lower zone of all channels then. One that said so once, if only that
 * it sends none (a zone of no members), is believed.
 */
export class MidiStreams {
  private streams: { id: string; source: string | undefined; notes: NotesOf }[] = [];
  /** The pedals that are down, by stream. */
  private readonly down = new Map<string, Set<number>>();
  private readonly selected = new SelectedParameters();
  private readonly channels: Channel[] = Array.from({ length: CHANNELS + 1 }, () => ({ bend: 0, bendSemitones: PLAIN_BEND_SEMITONES, pressure: 0, slide: 64 / MOST, moves: false }));
  private sounding: Sounding[] = [];
  /** Members of each zone, 0 for none. */
  private readonly members = { lower: 0, upper: 0 };
  /** Whether a zone was found out and not said. */
  assumed = false;
  private isSaid = false;
  private readonly event = voiceEvent();

  constructor(private readonly listener: StreamListener) {}

  /** The streams of the input; what sounds goes on in those that it began in, and a pedal comes up where its channel is heard no more. */
  setStreams(streams: readonly RigStream[]): void {
    const before = this.streams;
    this.streams = streams.map(({ id, source }) => ({ id, source, notes: notesOf(source) }));
    for (const { id, source } of before) if (!this.streams.some((stream) => stream.id === id && stream.source === source)) this.liftPedals(id);
  }

  private liftPedals(stream: string): void {
    const down = this.down.get(stream) ?? [];
    this.down.delete(stream);
    for (const controller of down) this.listener.pedal(stream, controller, 0);
  }

  message(message: MidiMessage): void {
    switch (message.kind) {
      case 'noteOn':
        if (message.velocity > 0) this.begin(message.channel, message.note, message.velocity);
        else this.end(message.channel, message.note, NaN);
        return;
      case 'noteOff':
        return this.end(message.channel, message.note, message.velocity / MOST);
      case 'pitchBend':
        this.channels[message.channel]!.bend = (message.bend - BEND_CENTRE) / BEND_CENTRE;
        return this.moved(message.channel, 'bend');
      case 'channelPressure':
        this.channels[message.channel]!.pressure = message.pressure / MOST;
        return this.moved(message.channel, 'pressure');
      case 'polyPressure':
        for (const voice of this.sounding) {
          if (voice.channel !== message.channel || voice.note !== message.note) continue;
          voice.pressure = message.pressure / MOST;
          this.tell(voice, 'pressure');
        }
        return;
      case 'controlChange':
        return this.controller(message.channel, message.controller, message.value);
      case 'reset':
        this.letGo();
        for (let channel = 1; channel <= CHANNELS; channel++) this.reset(channel);
        return;
      default:
        return;
    }
  }

  /** Whether a message is only of voices: what members of a zone say of their notes is no signal of its own. */
  isOfVoices(message: MidiMessage): boolean {
    if (!('channel' in message)) return false;
    const zone = this.zoneOf(message.channel);
    if (zone === null || message.channel === managerChannel(zone)) return false;
    return message.kind !== 'programChange' && (message.kind !== 'controlChange' || message.controller === SLIDE);
  }

  /** The device went, or nothing of it counts any more: its notes end, and whoever comes back has let go of its wheels meanwhile. */
  letGo(): void {
    for (const { channel, note } of [...this.sounding]) this.end(channel, note, NaN);
    for (const of of this.channels) Object.assign(of, AT_REST);
  }

  private controller(channel: number, controller: number, value: number): void {
    const of = this.channels[channel]!;
    if (this.selected.hear(channel, controller, value)) return;
    switch (controller) {
      case SELECT.dataMsb:
        return this.parameter(channel, value, 0);
      case SELECT.dataLsb:
        return this.parameter(channel, NaN, value);
      case SLIDE:
        of.slide = value / MOST;
        return this.moved(channel, 'slide');
      case RESET_CONTROLLERS:
        return this.reset(channel);
    }
    if (endsAllNotes(controller)) for (const voice of this.sounding.filter((one) => this.governs(channel, one.channel))) this.end(voice.channel, voice.note, NaN);
    if (controller >= FIRST_PEDAL && controller <= LAST_PEDAL) this.pedal(channel, controller, value);
  }

  /** Bends, pressures and pedals are put back, and no parameter is selected; slides stay (MMA RP-015: sound controllers do). */
  private reset(channel: number): void {
    this.channels.forEach((of, number) => {
      if (!this.governs(channel, number)) return;
      this.selected.forget(number);
      Object.assign(of, AT_REST);
    });
    for (const voice of this.sounding) {
      if (!this.governs(channel, voice.channel)) continue;
      voice.pressure = 0;
      this.tell(voice, 'bend');
      this.tell(voice, 'pressure');
    }
    for (const controller of RESET_PEDALS) this.pedal(channel, controller, 0);
  }

  /** Whether what a channel is told goes for another: it is that one, or the manager of its zone. */
  private governs(channel: number, other: number): boolean {
    const zone = this.zoneOf(channel);
    return other === channel || (other > 0 && zone !== null && channel === managerChannel(zone) && this.zoneOf(other) === zone);
  }

  private pedal(channel: number, controller: number, value: number): void {
    const zone = this.zoneOf(channel);
    for (const { id, notes } of this.streams) {
      if (notes.of === 'channel' && notes.channel !== channel) continue;
      if (notes.of === 'zone' && notes.zone !== zone) continue;
      const down = this.down.get(id) ?? new Set();
      if (value > 0) this.down.set(id, down.add(controller));
      else down.delete(controller);
      this.listener.pedal(id, controller, value);
    }
  }

  private parameter(channel: number, coarse: number, fine: number): void {
    const of = this.channels[channel]!;
    const selected = this.selected.of(channel);
    if (!selected?.registered) return;
    const parameter = selected.number;
    if (parameter === MPE_RPN && !Number.isNaN(coarse) && (channel === 1 || channel === CHANNELS)) return this.configure(channel === 1 ? 'lower' : 'upper', Math.min(coarse, CHANNELS - 1));
    if (parameter !== BEND_RANGE_RPN) return;
    const semitones = Number.isNaN(coarse) ? Math.floor(of.bendSemitones) + fine / 100 : coarse;
    const zone = this.zoneOf(channel);
    // In a zone it goes for all members at once (MPE 1.0, section 2.4).
    const isMember = zone !== null && channel !== managerChannel(zone);
    this.channels.forEach((other, number) => {
      if (number === channel || (isMember && number > 0 && this.zoneOf(number) === zone && number !== managerChannel(zone))) other.bendSemitones = semitones;
    });
    this.moved(channel, null);
  }

  /** The device says what its zones are; what sounds goes on by them. */
  private configure(zone: 'lower' | 'upper', members: number): void {
    const before = this.sounding.map((voice) => [this.bendOf(voice.channel), this.pressureOf(voice)]);
    this.isSaid = true;
    this.zone(zone, members);
    this.sounding.forEach((voice, i) => {
      if (this.bendOf(voice.channel) !== before[i]![0]) this.tell(voice, 'bend');
      if (this.pressureOf(voice) !== before[i]![1]) this.tell(voice, 'pressure');
    });
  }

  /** A zone is made, changed or given up; another that it reaches into loses those channels (MPE 1.0, section 2.1). */
  private zone(zone: 'lower' | 'upper', members: number): void {
    const other = zone === 'lower' ? 'upper' : 'lower';
    const wasOf = this.channels.map((_, channel) => this.zoneOf(channel));
    this.members[zone] = members;
    if (this.members[other] > 0) this.members[other] = Math.max(0, Math.min(this.members[other], CHANNELS - 2 - members));
    this.assumed = false;
    for (let channel = 1; channel <= CHANNELS; channel++) {
      const of = this.zoneOf(channel);
      if (of === zone) this.channels[channel]!.bendSemitones = channel === managerChannel(zone) ? PLAIN_BEND_SEMITONES : MEMBER_BEND_SEMITONES;
      // What a channel that belongs to none bends by the standard leaves open: what it did before anybody said anything.
      else if (of === null && wasOf[channel] !== null) this.channels[channel]!.bendSemitones = PLAIN_BEND_SEMITONES;
    }
  }

  /** The zone that a channel is of, as its manager or a member. */
  private zoneOf(channel: number): 'lower' | 'upper' | null {
    const { lower, upper } = this.members;
    if (lower > 0 && channel <= 1 + lower) return 'lower';
    if (upper > 0 && channel >= CHANNELS - upper) return 'upper';
    return null;
  }

  private begin(channel: number, note: number, velocity: number): void {
    const before = this.sounding.find((one) => one.channel === channel && one.note === note);
    const voice: Sounding = { channel, note, pressure: 0, streams: this.streams.filter(({ notes }) => this.takes(notes, channel, note)).map(({ id }) => id) };
    this.sounding = [...this.sounding.filter((one) => one !== before), voice];
    // Struck again it begins anew by itself; where its notes go elsewhere by now nobody would end it.
    this.clear();
    if (before) this.say({ ...before, streams: before.streams.filter((stream) => !voice.streams.includes(stream)) }, 'off');
    this.assume();
    const { event } = this;
    event.strike = velocity / MOST;
    event.pitch = note + this.bendOf(channel);
    event.pressure = this.pressureOf(voice);
    event.slide = this.channels[channel]!.slide;
    event.release = NaN;
    this.say(voice, 'on');
  }

  private end(channel: number, note: number, release: number): void {
    const voice = this.sounding.find((candidate) => candidate.channel === channel && candidate.note === note);
    if (!voice) return;
    this.sounding = this.sounding.filter((other) => other !== voice);
    this.clear();
    this.event.release = release;
    this.say(voice, 'off');
  }

  private takes(notes: NotesOf, channel: number, note: number): boolean {
    switch (notes.of) {
      case 'all':
        return true;
      case 'channel':
        return notes.channel === channel;
      case 'keys':
        return note >= notes.low && note <= notes.high;
      case 'zone':
        return this.zoneOf(channel) === notes.zone;
    }
  }

  /** A channel moved: every voice that it moves is told. Of a manager, all of its zone are. */
  private moved(channel: number, what: 'bend' | 'pressure' | 'slide' | null): void {
    if (what !== null) this.channels[channel]!.moves = true;
    const zone = this.zoneOf(channel);
    const all = zone !== null && channel === managerChannel(zone);
    for (const voice of this.sounding) if (voice.channel === channel || (all && what !== 'slide' && this.zoneOf(voice.channel) === zone)) this.tell(voice, what ?? 'bend');
  }

  private tell(voice: Sounding, what: 'bend' | 'pressure' | 'slide'): void {
    this.clear();
    const { event } = this;
    if (what === 'bend') event.pitch = voice.note + this.bendOf(voice.channel);
    else if (what === 'pressure') event.pressure = this.pressureOf(voice);
    else event.slide = this.channels[voice.channel]!.slide;
    this.say(voice, 'move');
  }

  private say(voice: Sounding, kind: VoiceEvent['kind']): void {
    const { event } = this;
    event.kind = kind;
    event.voice = voice.channel * 128 + voice.note;
    for (const stream of voice.streams) this.listener.voice(stream, event);
  }

  private clear(): void {
    const { event } = this;
    event.pitch = event.strike = event.pressure = event.slide = event.release = NaN;
  }

  /** Semitones that a channel bends its notes by, its manager's bend with it. */
  private bendOf(channel: number): number {
    const { bend, bendSemitones } = this.channels[channel]!;
    const zone = this.zoneOf(channel);
    const manager = zone === null || channel === managerChannel(zone) ? null : this.channels[managerChannel(zone)]!;
    return bend * bendSemitones + (manager ? manager.bend * manager.bendSemitones : 0);
  }

  /** The most of what presses it: its key, its channel, its manager. */
  private pressureOf({ channel, pressure }: Sounding): number {
    const zone = this.zoneOf(channel);
    return Math.max(pressure, this.channels[channel]!.pressure, zone === null ? 0 : this.channels[managerChannel(zone)]!.pressure);
  }

  private assume(): void {
    if (this.isSaid || this.assumed) return;
    const moving = new Set(this.sounding.map(({ channel }) => channel).filter((channel) => this.channels[channel]!.moves));
    if (moving.size < 2) return;
    this.zone('lower', CHANNELS - 1);
    this.assumed = true;
    for (const voice of this.sounding) if (voice !== this.sounding.at(-1)) this.tell(voice, 'bend');
  }
}

const managerChannel = (zone: 'lower' | 'upper') => (zone === 'lower' ? 1 : CHANNELS);
