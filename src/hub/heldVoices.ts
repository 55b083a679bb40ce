import { voiceEvent } from '../core/voices/event';
import { sampleCount, sampleOnPageMs, sampleTimeMs } from '../protocol/frames';
import { LIMITS } from '../protocol/limits';
import { readVoice, voicesFault } from '../protocol/voiceFrames';
import type { Refuse } from './refuse';
import type { Player } from './player';
import { believable, hubTimeMs } from './time';

/** The voices that a page holds: by stream and its own number of them, the number that the hub gave. */
export class HeldVoices {
  private readonly voices = new Map<number, number>();
  private readonly event = voiceEvent();

  constructor(private readonly player: Player) {}

  /**
   * Takes a frame of voices: all of it, or, where any of it is wrong, nothing.
   * @param streamOf the hub number of a stream that the frame names, which may be -1 for one that the rig does not have; null where it was refused
   */
  take(view: DataView, refuse: Refuse, streamOf: (named: number, i: number) => number | null): void {
    const fault = voicesFault(view);
    if (fault) return refuse('malformed-frame', fault.field, fault.message);
    const { event, player } = this;
    const count = sampleCount(view);
    for (let i = 0; i < count; i++) {
      readVoice(view, i, event);
      if (streamOf(event.stream, i) === null) return;
    }
    const timeMs = believable(sampleTimeMs(view));
    player.outputs.arrivedMs = hubTimeMs();
    player.outputs.onPageMs = sampleOnPageMs(view);
    for (let i = 0; i < count; i++) {
      readVoice(view, i, event);
      const stream = streamOf(event.stream, i)!;
      if (stream >= 0) this.say(stream, timeMs);
    }
  }

  private say(stream: number, timeMs: number): void {
    const { event, player } = this;
    const held = keyOf(stream, event.voice);
    if (event.kind === 'on') {
      // One that begins again ends first, under the number that it had.
      if (this.voices.has(held)) this.endAside(held);
      if (this.voices.size >= LIMITS.voicesPerClient) return;
      this.voices.set(held, player.incoming.freshVoice());
    }
    const number = this.voices.get(held);
    if (number === undefined) return;
    if (event.kind === 'off') this.voices.delete(held);
    event.voice = number;
    player.incoming.voice(stream, timeMs, event);
  }

  /** Ends the voices of streams that are none of these. */
  endOthers(streams: ReadonlySet<number>): void {
    for (const held of this.voices.keys()) if (!streams.has(streamOfKey(held))) this.endAside(held);
  }

  endAll(): void {
    for (const held of this.voices.keys()) this.endAside(held);
  }

  /** By an event of its own: another may just be read. */
  private endAside(held: number): void {
    const event = { ...voiceEvent('off'), voice: this.voices.get(held)! };
    this.voices.delete(held);
    this.player.incoming.voice(streamOfKey(held), hubTimeMs(), event);
  }
}

const keyOf = (stream: number, voice: number) => stream * 0x10000 + voice;
const streamOfKey = (held: number) => Math.floor(held / 0x10000);
