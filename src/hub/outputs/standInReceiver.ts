import { AFTER_RESET, endsAllNotes, RESET_CONTROLLERS } from '../../core/midi/controllers';
import { BEND_CENTRE, type MidiMessage } from '../../core/midi/message';
import { StreamParser } from '../../core/midi/streamParser';
import type { Heard } from '../../protocol/frames';
import type { Outgoing } from './outgoing';
import type { OutputSink } from './sink';

const KINDS: readonly Heard['kind'][] = ['controlChange', 'note', 'pitchBend'];
const [CONTROLLER, NOTE, BEND] = [0, 1, 2];
const CHANNELS = 16;
const NUMBERS = 128;
const NEVER = -1;

/**
 * A simulated instrument: it reads the bytes as a real one would and remembers, per address, what it holds now.
 */
export class StandInReceiver implements OutputSink {
  readonly takes = 'midi';
  readonly mayComeBack = false;
  /** The last value by kind, channel and number. All in one piece: it is written for every message. */
  private readonly values = new Int16Array(KINDS.length * CHANNELS * NUMBERS).fill(NEVER);
  /** Used again for every message. */
  private readonly said: Heard = { kind: 'controlChange', channel: 1, number: 0, value: 0 };
  private readonly parser = new StreamParser((message) => this.hear(message));

  /** @param onHeard told of what was heard, in an object that is used again after the call */
  constructor(private readonly onHeard: (heard: Readonly<Heard>) => void) {}

  send({ bytes }: Pick<Outgoing, 'bytes'>): void {
    this.parser.push(bytes);
  }

  heard(): Heard[] {
    const heard: Heard[] = [];
    this.values.forEach((value, place) => {
      if (value === NEVER) return;
      const channels = Math.floor(place / NUMBERS);
      heard.push({ kind: KINDS[Math.floor(channels / CHANNELS)]!, channel: 1 + (channels % CHANNELS), number: place % NUMBERS, value });
    });
    return heard;
  }

  close(): void {
    this.values.fill(NEVER);
  }

  private hear(message: MidiMessage): void {
    switch (message.kind) {
      case 'controlChange':
        if (endsAllNotes(message.controller)) this.silence(message.channel);
        else if (message.controller === RESET_CONTROLLERS) this.reset(message.channel);
        else this.set(CONTROLLER, message.channel, message.controller, message.value);
        return;
      case 'noteOn':
        return this.set(NOTE, message.channel, message.note, message.velocity);
      case 'noteOff':
        return this.set(NOTE, message.channel, message.note, 0);
      case 'pitchBend':
        return this.set(BEND, message.channel, 0, message.bend);
      default:
        return;
    }
  }

  /** What the channel was told of the controllers that are named, and its bend, are put back (MMA RP-015). */
  private reset(channel: number): void {
    for (const [controller, share] of AFTER_RESET) if (this.values[placeOf(CONTROLLER, channel, controller)]! !== NEVER) this.set(CONTROLLER, channel, controller, 127 * share);
    if (this.values[placeOf(BEND, channel, 0)]! !== NEVER) this.set(BEND, channel, 0, BEND_CENTRE);
  }

  /** Every note of the channel ends. */
  private silence(channel: number): void {
    for (let note = 0; note < NUMBERS; note++) if (this.values[placeOf(NOTE, channel, note)]! > 0) this.set(NOTE, channel, note, 0);
  }

  /** @param kind its place among the kinds */
  private set(kind: number, channel: number, number: number, value: number): void {
    const { said } = this;
    this.values[placeOf(kind, channel, number)] = value;
    said.kind = KINDS[kind]!;
    said.channel = channel;
    said.number = number;
    said.value = value;
    this.onHeard(said);
  }
}

/** @param channel 1 to 16 */
function placeOf(kind: number, channel: number, number: number): number {
  return (kind * CHANNELS + channel - 1) * NUMBERS + number;
}
