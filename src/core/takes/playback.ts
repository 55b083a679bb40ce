import { RELEASE_VELOCITY } from '../engine/noteBook';
import { STATUS } from '../midi/message';
import { beginsNote, endsNote, isMidi, keyOf, lineOf, statusOf } from './notes';
import type { ScoreMessage } from './score';
import type { Messages } from './scoreTable';

export interface PlaybackOptions {
  /** From where in the take. */
  fromMs: number;
  /** 1: as it was played. */
  speed: number;
  loop: { fromMs: number; toMs: number } | null;
  /** The lines (`lineOf`) that are not heard. */
  muted: readonly string[];
  /** Everything goes there instead; null: where it went. */
  output: string | null;
  /** Where a new take is recorded meanwhile; null for nowhere. */
  punch: { fromMs: number; toMs: number } | null;
}

/** A message and when it is due, in ms from the beginning of playing. */
export interface DueMessage {
  dueMs: number;
  output: string;
  bytes: Uint8Array;
  /** Whether it is a packet of OSC that a voice left as. */
  ofVoice: boolean;
}

/** Reads a packet of voices: what it begins or ends, and the packet that will end that, null where it ended. Null where it only moves something. */
export type ReadVoicePacket = (packet: Uint8Array) => { held: string; end: Uint8Array | null } | null;

/** A loop is at least so long: a shorter one would be a tone. */
export const LOOP_LEAST_MS = 50;

/**
 * Plays the messages of a take: gives them in stretches, with the times at which they are due. It begins with what holds at that
 * place (controllers, bends, pressures, programs; never a note), and at the end of a loop ends what sounds.
 */
export class Playback {
  readonly loop: PlaybackOptions['loop'];
  readonly speed: number;
  /** Where it begins, which is in the loop. */
  readonly fromMs: number;
  private at = 0;
  /** What ends all that sounds, by what it is. */
  private readonly sounding = new Map<string, Omit<DueMessage, 'dueMs'>>();
  /** Where this turn of the loop begins, in the take and in ms from the beginning of playing. */
  private turnMs: number;
  private offsetMs = 0;
  private chased = false;
  private lastChase: { atMs: number; at: number; held: ScoreMessage[] } | null = null;
  private readonly muted: ReadonlySet<string>;

  constructor(
    private readonly messages: Messages,
    private readonly options: PlaybackOptions,
    private readonly readVoice: ReadVoicePacket,
  ) {
    const { loop } = options;
    this.muted = new Set(options.muted);
    this.loop = loop && loop.toMs - loop.fromMs >= LOOP_LEAST_MS ? loop : null;
    this.speed = options.speed;
    this.fromMs = this.turnMs = this.loop && options.fromMs >= this.loop.toMs ? this.loop.fromMs : options.fromMs;
  }

  /** Whether there is nothing more. */
  get ended(): boolean {
    return this.chased && !this.loop && this.at >= this.messages.length;
  }

  /** The messages that are due before this, in ms from the beginning of playing, of those not given yet. */
  until(dueMs: number): DueMessage[] {
    const due: DueMessage[] = [];
    if (!this.chased) this.chase(due);
    for (;;) {
      const message = this.messages.at(this.at);
      const endMs = this.loop?.toMs ?? Infinity;
      if (message === undefined || message.atMs >= endMs) {
        if (!this.loop || this.dueAt(endMs) >= dueMs) return due;
        this.turn(due);
        continue;
      }
      const atMs = this.dueAt(message.atMs);
      if (atMs >= dueMs) return due;
      this.at++;
      this.give(message, atMs, due);
    }
  }

  private dueAt(atMs: number): number {
    return this.offsetMs + (atMs - this.turnMs) / this.speed;
  }

  private give(message: ScoreMessage, dueMs: number, due: DueMessage[]): void {
    if (this.muted.has(lineOf(message))) return;
    const { bytes, source } = message;
    const output = this.options.output ?? source.output;
    const ofVoice = !isMidi(message) && source.who === 'voice';
    if (beginsNote(message)) this.sounding.set(keyOf(message), { output, bytes: Uint8Array.of(STATUS.noteOff | (bytes[0]! & 0x0f), bytes[1]!, RELEASE_VELOCITY), ofVoice });
    else if (endsNote(message)) this.sounding.delete(keyOf(message));
    if (ofVoice) this.remember(output, this.readVoice(bytes));
    due.push({ dueMs, output, bytes, ofVoice });
  }

  private remember(output: string, voice: ReturnType<ReadVoicePacket>): void {
    if (!voice) return;
    if (voice.end) this.sounding.set(`${output} ${voice.held}`, { output, bytes: voice.end, ofVoice: true });
    else this.sounding.delete(`${output} ${voice.held}`);
  }

  /** From the end of the loop to its beginning. */
  private turn(due: DueMessage[]): void {
    const { fromMs, toMs } = this.loop!;
    const endMs = this.dueAt(toMs);
    for (const end of this.sounding.values()) due.push({ ...end, dueMs: endMs });
    this.sounding.clear();
    this.offsetMs = endMs;
    this.turnMs = fromMs;
    this.chase(due);
  }

  /** Says what was said last before this place, of every address. */
  private chase(due: DueMessage[]): void {
    this.chased = true;
    // A short loop comes by many times a second, and what held at its beginning stays the same.
    if (this.lastChase?.atMs !== this.turnMs) this.lastChase = { atMs: this.turnMs, ...this.heldAt(this.turnMs) };
    this.at = this.lastChase.at;
    for (const message of this.lastChase.held) this.give(message, this.offsetMs, due);
  }

  /** What was said last before a place of the take, of every address, and the first message from there on. */
  private heldAt(atMs: number): { at: number; held: ScoreMessage[] } {
    let at = 0;
    const last = new Map<string, ScoreMessage>();
    for (; at < this.messages.length; at++) {
      const message = this.messages.at(at)!;
      if (message.atMs >= atMs) break;
      const address = heldAddress(message);
      if (address === null) continue;
      // In the order in which they were said last, so that what selects stands before what it selects.
      last.delete(address);
      last.set(address, message);
    }
    return { at, held: [...last.values()] };
  }
}

/** What a message sets and leaves so; null for what happens at once. */
function heldAddress(message: ScoreMessage): string | null {
  const { source, bytes } = message;
  if (!isMidi(message)) return null;
  const status = statusOf(message);
  const channel = `${source.output} ${bytes[0]}`;
  switch (status) {
    case STATUS.controlChange:
      // Channel mode messages happen.
      return bytes[1]! >= 120 ? null : `${channel} ${bytes[1]}`;
    case STATUS.programChange:
    case STATUS.channelPressure:
    case STATUS.pitchBend:
      return channel;
    default:
      return null;
  }
}
