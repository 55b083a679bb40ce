import { RELEASE_VELOCITY } from '../engine/noteBook';
import { Away } from '../midi/away';
import { HeldValues } from '../midi/heldValues';
import { STATUS } from '../midi/message';
import { beginsNote, endsNote, isMidi, keyOf, lineOf } from './notes';
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
 * place (programs, parameters, controllers, bends, pressures; never a note), and at the end of a loop ends what sounds and lets go
 * what is bent or pedalled.
 */
export class Playback {
  readonly loop: PlaybackOptions['loop'];
  readonly speed: number;
  /** Where it begins, which is in the loop. */
  readonly fromMs: number;
  private at = 0;
  /** What ends all that sounds, by what it is. */
  private readonly sounding = new Map<string, Omit<DueMessage, 'dueMs'>>();
  private readonly away = new Away();
  /** Where this turn of the loop begins, in the take and in ms from the beginning of playing. */
  private turnMs: number;
  private offsetMs = 0;
  private chased = false;
  private lastChase: { atMs: number; at: number; held: Omit<DueMessage, 'dueMs'>[] } | null = null;
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
    this.say({ output, bytes, ofVoice }, dueMs, due);
  }

  private say(message: Omit<DueMessage, 'dueMs'>, dueMs: number, due: DueMessage[]): void {
    if (message.bytes[0]! >= STATUS.noteOff) this.away.hear(message.output, message.bytes);
    due.push({ ...message, dueMs });
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
    for (const rest of this.away.letGo()) due.push({ ...rest, ofVoice: false, dueMs: endMs });
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
    for (const message of this.lastChase.held) this.say(message, this.offsetMs, due);
  }

  /** What holds at a place of the take at each output, and the first message from there on. */
  private heldAt(atMs: number): { at: number; held: Omit<DueMessage, 'dueMs'>[] } {
    let at = 0;
    const outputs = new Map<string, HeldValues>();
    for (; at < this.messages.length; at++) {
      const message = this.messages.at(at)!;
      if (message.atMs >= atMs) break;
      if (!isMidi(message) || (this.muted.size > 0 && this.muted.has(lineOf(message)))) continue;
      const output = this.options.output ?? message.source.output;
      let values = outputs.get(output);
      if (!values) outputs.set(output, (values = new HeldValues()));
      values.sent(message.bytes);
    }
    return { at, held: [...outputs].flatMap(([output, values]) => values.messages().map((bytes) => ({ output, bytes, ofVoice: false }))) };
  }
}
