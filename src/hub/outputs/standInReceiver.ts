import type { MidiMessage } from '../../core/midi/message';
import { StreamParser } from '../../core/midi/streamParser';
import type { Heard } from '../../protocol/frames';
import type { Outgoing } from './outgoing';
import type { OutputSink } from './sink';

const KINDS: readonly Heard['kind'][] = ['controlChange', 'note', 'pitchBend'];

/**
 * A simulated instrument: it reads the bytes as a real one would and remembers, per address, what it holds now.
 */
export class StandInReceiver implements OutputSink {
  readonly takes = 'midi';
  readonly mayComeBack = false;
  private readonly state = new Map<number, Heard>();
  private readonly parser = new StreamParser((message) => this.hear(message));

  constructor(private readonly onHeard: (heard: Heard) => void) {}

  send({ bytes }: Pick<Outgoing, 'bytes'>): void {
    this.parser.push(bytes);
  }

  heard(): ReadonlyMap<number, Heard> {
    return this.state;
  }

  close(): void {
    this.state.clear();
  }

  private hear(message: MidiMessage): void {
    switch (message.kind) {
      case 'controlChange':
        if (message.controller === 120 || message.controller === 123) this.silence(message.channel);
        else this.set('controlChange', message.channel, message.controller, message.value);
        return;
      case 'noteOn':
        return this.set('note', message.channel, message.note, message.velocity);
      case 'noteOff':
        return this.set('note', message.channel, message.note, 0);
      case 'pitchBend':
        return this.set('pitchBend', message.channel, 0, message.bend);
      default:
        return;
    }
  }

  /** All sound off and all notes off: every note of the channel ends. */
  private silence(channel: number): void {
    for (const held of [...this.state.values()]) {
      if (held.kind === 'note' && held.channel === channel && held.value > 0) this.set('note', channel, held.number, 0);
    }
  }

  private set(kind: Heard['kind'], channel: number, number: number, value: number): void {
    const key = (KINDS.indexOf(kind) << 12) | (channel << 7) | number;
    let heard = this.state.get(key);
    if (heard) heard.value = value;
    else this.state.set(key, (heard = { kind, channel, number, value }));
    this.onHeard(heard);
  }
}
