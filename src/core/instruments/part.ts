import { BEND_CENTRE, type MidiMessage } from '../midi/message';
import { StreamParser } from '../midi/streamParser';
import type { ReceiverSound } from './instruments';

/** What an instrument is to do; a key is a note of a channel. */
export interface PartPlayer {
  strike(key: number, frequencyHz: number, strength: number): void;
  release(key: number): void;
  tune(key: number, frequencyHz: number): void;
  /** A parameter goes to a share of its way, 0 to 1. */
  set(parameter: string, share: number): void;
}

const CHANNELS = 16;
const A4 = { note: 69, frequencyHz: 440 };
const SUSTAIN = 64;
const DATA_MSB = 6;
const RPN = { lsb: 100, msb: 101 };
const ALL_SOUND_OFF = 120;
const ALL_NOTES_OFF = 123;

/** The pitch of a note in equal temperament, with a bend in semitones. */
export function frequencyOf(note: number, bendSemitones: number): number {
  return A4.frequencyHz * 2 ** ((note - A4.note + bendSemitones) / 12);
}

/**
 * Reads MIDI as an instrument of sixteen channels does: notes with their bends, sustain, the bend range by RPN 0, controllers
 * that were learned, and the ends of all notes.
 */
export class Part {
  private readonly parser = new StreamParser((message) => this.hear(message));
  private readonly bends = new Float64Array(CHANNELS);
  private readonly ranges: Float64Array;
  private readonly rpn = Array.from({ length: CHANNELS }, () => ({ msb: 127, lsb: 127 }));
  private readonly sustained = new Array<boolean>(CHANNELS).fill(false);
  /** By key: whether its key is down; one that is up is held by the pedal. */
  private readonly sounding = new Map<number, boolean>();

  constructor(
    private readonly sound: ReceiverSound,
    bendRangeSemitones: number,
    private readonly player: PartPlayer,
  ) {
    this.ranges = new Float64Array(CHANNELS).fill(bendRangeSemitones);
  }

  push(bytes: Uint8Array): void {
    this.parser.push(bytes);
  }

  private hear(message: MidiMessage): void {
    switch (message.kind) {
      case 'noteOn':
        if (message.velocity === 0) return this.up(keyOf(message));
        this.sounding.set(keyOf(message), true);
        return this.player.strike(keyOf(message), frequencyOf(message.note, this.bends[message.channel - 1]!), message.velocity / 127);
      case 'noteOff':
        return this.up(keyOf(message));
      case 'pitchBend': {
        const { channel, bend } = message;
        const way = (bend - BEND_CENTRE) / (bend < BEND_CENTRE ? BEND_CENTRE : BEND_CENTRE - 1);
        this.bends[channel - 1] = way * this.ranges[channel - 1]!;
        for (const key of this.sounding.keys()) if (channelOf(key) === channel) this.player.tune(key, frequencyOf(key % 128, this.bends[channel - 1]!));
        return;
      }
      case 'controlChange':
        return this.controlChange(message.channel, message.controller, message.value);
      default:
        return;
    }
  }

  private controlChange(channel: number, controller: number, value: number): void {
    const rpn = this.rpn[channel - 1]!;
    if (controller === RPN.msb) rpn.msb = value;
    if (controller === RPN.lsb) rpn.lsb = value;
    if (controller === DATA_MSB && rpn.msb === 0 && rpn.lsb === 0) this.ranges[channel - 1] = value;
    if (controller === SUSTAIN) this.sustain(channel, value >= 64);
    if (controller === ALL_SOUND_OFF || controller === ALL_NOTES_OFF) this.silence(channel);
    for (const learned of this.sound.learned) if (learned.channel === channel && learned.controller === controller) this.player.set(learned.parameter, value / 127);
  }

  private up(key: number): void {
    if (!this.sounding.has(key)) return;
    if (this.sustained[channelOf(key) - 1]) this.sounding.set(key, false);
    else this.end(key);
  }

  private sustain(channel: number, on: boolean): void {
    this.sustained[channel - 1] = on;
    if (on) return;
    for (const [key, down] of [...this.sounding]) if (!down && channelOf(key) === channel) this.end(key);
  }

  private silence(channel: number): void {
    for (const key of [...this.sounding.keys()]) if (channelOf(key) === channel) this.end(key);
  }

  private end(key: number): void {
    this.sounding.delete(key);
    this.player.release(key);
  }
}

const keyOf = ({ channel, note }: { channel: number; note: number }) => channel * 128 + note;
const channelOf = (key: number) => Math.floor(key / 128);
