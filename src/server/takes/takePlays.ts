import { Playback, type PlaybackOptions } from '../../core/takes/playback';
import type { Messages } from '../../core/takes/scoreTable';
import type { FromWeb } from '../../protocol/live';
import { heldByPacket } from '../../net/osc/voicePackets';
import type { PlayingState } from '../../protocol/takes';

/** The hub is given so much at once. */
const STRETCH_MS = 8000;

/** Gives the hub the messages of the take that plays, a stretch whenever it asks for one. */
export class TakePlays {
  private play = 0;
  private playback: Playback | null = null;

  constructor(private readonly tell: (message: FromWeb) => void) {}

  /** Plays from now on, instead of what plays. */
  begin(messages: Messages, options: PlaybackOptions, state: Omit<PlayingState, 'sinceHubMs' | 'fromMs' | 'speed' | 'loop' | 'punch'>, tempoBpm: number): void {
    this.playback = new Playback(messages, options, heldByPacket);
    const { fromMs, speed, loop } = this.playback;
    this.tell({ kind: 'playTake', play: ++this.play, state: { ...state, fromMs, speed, loop, punch: options.punch }, tempoBpm });
    this.more(this.play, 0);
  }

  /** The messages after this. */
  more(play: number, untilMs: number): void {
    const { playback } = this;
    if (play !== this.play || !playback) return;
    const next = untilMs + STRETCH_MS;
    const messages = playback.until(next).map(({ dueMs, output, bytes, ofVoice }): [number, string, string, boolean] => [dueMs, output, Buffer.from(bytes).toString('base64'), ofVoice]);
    this.tell({ kind: 'takeMessages', play, untilMs: next, last: playback.ended, messages });
  }

  stop(): void {
    this.playback = null;
    this.tell({ kind: 'stopTake' });
  }
}
