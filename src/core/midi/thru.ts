import { endsAllNotes, holdsNotes, RESET_CONTROLLERS } from './controllers';
import { encode } from './encode';
import { BEND_CENTRE, type MidiMessage } from './message';
import type { MidiThru, MidiThruKind, ThruRoute } from '../inputs/kinds/midi';

/** Where a message of an input goes straight on to, and as what. */
export interface Passed {
  output: string;
  bytes: Uint8Array;
}

const SOFT_PEDAL = 67;

/**
 * The thru of one input: what goes on, on which channel, transposed by how much. It remembers what it began, so that the end
 * of a note goes where its beginning went whatever the thru says by now, and so that pedals, bends and pressure that the input
 * held can be put back when it goes.
 */
export class Thru {
  /** By key of the input: the note as it left. */
  private readonly notes = new Map<string, { output: string; channel: number; note: number }>();
  /** By what was moved away from rest: the message that puts it back, and by which channel of the input it was moved. */
  private readonly away = new Map<string, { from: number; output: string; back: MidiMessage }>();

  /** What leaves for a message that arrived. */
  pass(message: MidiMessage, thru: MidiThru | undefined): Passed[] {
    if (message.kind === 'noteOff' || (message.kind === 'noteOn' && message.velocity === 0)) return this.endNote(message);
    const before = this.before(message);
    if (!thru || !passes(thru, message)) return before;
    const passed = routesOf(message, thru).flatMap((route) => {
      const moved = movedBy(message, route);
      if (!moved) return [];
      if (message.kind === 'noteOn' && moved.kind === 'noteOn') this.notes.set(`${message.channel} ${message.note}`, { output: route.output, channel: moved.channel, note: moved.note });
      else if ('channel' in message) this.remember(message.channel, route.output, moved);
      return [{ output: route.output, bytes: encode(moved) }];
    });
    return [...before, ...passed];
  }

  /**
   * What leaves before a message, whether that passes or not: a key that is struck again may begin another note by now; where all notes
   * of a channel end, or its controllers are put back, what went through of it does and is.
   */
  private before(message: MidiMessage): Passed[] {
    if (message.kind === 'noteOn') return this.endNote(OFF(message));
    if (message.kind === 'reset') return [...this.endNotes(), ...this.putBack()];
    if (message.kind !== 'controlChange') return [];
    if (message.controller === RESET_CONTROLLERS) return this.putBack(message.channel);
    return endsAllNotes(message.controller) ? this.endNotes(message.channel) : [];
  }

  /** @param channel of the input; all where it is left out */
  private endNotes(channel?: number): Passed[] {
    const began = [...this.notes.keys()].map((key) => key.split(' ').map(Number) as [channel: number, note: number]);
    return began.filter(([from]) => channel === undefined || from === channel).flatMap(([from, note]) => this.endNote(OFF({ channel: from, note })));
  }

  /** Whether anything that it began goes elsewhere than the thru says now. */
  leadsElsewhere(thru: MidiThru | undefined): boolean {
    return [...this.notes.values(), ...this.away.values()].some(({ output }) => output !== thru?.output && output !== thru?.split?.output);
  }

  /** The messages that put back what was held besides notes; afterwards nothing is held. */
  letGo(): Passed[] {
    this.notes.clear();
    return this.putBack();
  }

  /** @param channel of the input; all where it is left out */
  private putBack(channel?: number): Passed[] {
    const back = [...this.away].filter(([, { from }]) => channel === undefined || from === channel);
    for (const [key] of back) this.away.delete(key);
    return back.map(([, { output, back: message }]) => ({ output, bytes: encode(message) }));
  }

  private endNote(message: Extract<MidiMessage, { kind: 'noteOn' | 'noteOff' }>): Passed[] {
    const key = `${message.channel} ${message.note}`;
    const went = this.notes.get(key);
    if (!went) return [];
    this.notes.delete(key);
    return [{ output: went.output, bytes: encode({ ...message, channel: went.channel, note: went.note }) }];
  }

  private remember(from: number, output: string, message: MidiMessage): void {
    const back = atRest(message);
    if (!back) return;
    const key = back.kind === 'controlChange' ? `${output} ${back.channel} ${back.controller}` : `${output} ${back.channel} ${back.kind}`;
    if (encode(back).join() === encode(message).join()) this.away.delete(key);
    else this.away.set(key, { from, output, back });
  }
}

/** MIDI 1.0 recommends 64 where nothing tells how a key was let go of. */
const OFF = ({ channel, note }: { channel: number; note: number }) => ({ kind: 'noteOff', channel, note, velocity: 64 }) as const;

/** The message that puts back what this one moves, for what would go on sounding otherwise. */
function atRest(message: MidiMessage & { channel?: number }): (MidiMessage & { channel: number }) | null {
  if (message.kind === 'controlChange' && (holdsNotes(message.controller) || message.controller === SOFT_PEDAL)) return { ...message, value: 0 };
  if (message.kind === 'pitchBend') return { ...message, bend: BEND_CENTRE };
  return message.kind === 'channelPressure' ? { ...message, pressure: 0 } : null;
}

/** Where a message goes: where the keyboard is split a note has one side, and everything else goes to both. */
function routesOf(message: MidiMessage, thru: MidiThru): ThruRoute[] {
  const { split } = thru;
  if (!split) return [thru];
  if ('note' in message) return [message.note < split.below ? split : thru];
  // What has no channel, or the same one on the same output, would only be said twice.
  const isTwice = split.output === thru.output && (!('channel' in message) || split.channel === thru.channel);
  return isTwice ? [thru] : [thru, split];
}

/** The message on the thru's own channel and transposed; null for a note that leaves the keys. */
function movedBy(message: MidiMessage, { channel, transpose = 0 }: ThruRoute): MidiMessage | null {
  if (!('channel' in message)) return message;
  const moved = channel === undefined ? message : { ...message, channel };
  if (moved.kind !== 'noteOn' && moved.kind !== 'polyPressure') return moved;
  const note = moved.note + transpose;
  return note >= 0 && note <= 127 ? { ...moved, note } : null;
}

function passes({ channels, kinds }: MidiThru, message: MidiMessage): boolean {
  if ('channel' in message && !channels.includes(message.channel)) return false;
  const kind = thruKind(message);
  return kind !== null && kinds.includes(kind);
}

function thruKind({ kind }: MidiMessage): MidiThruKind | null {
  switch (kind) {
    case 'noteOn':
    case 'noteOff':
      return 'notes';
    case 'controlChange':
      return 'controllers';
    case 'programChange':
      return 'programs';
    case 'channelPressure':
    case 'polyPressure':
      return 'pressure';
    case 'pitchBend':
      return 'bend';
    case 'clock':
    case 'start':
    case 'continue':
    case 'stop':
    case 'songPosition':
      return 'clock';
    default:
      return null;
  }
}
