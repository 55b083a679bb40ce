import { STATUS } from '../core/midi/message';
import { takes } from '../core/rig/outputs';
import type { EventNow } from '../core/engine/event';
import type { RigOutput } from '../core/outputs/kinds';
import { heldByPacket, type HeldByPacket } from '../net/osc/voicePackets';
import type { SongTime } from './songTime';
import type { TakePlayerWorld } from './takePlayer';
import { hubTimeMs } from './time';

/** What a take that plays moves in the hub: the engine, outputs of OSC, tempo and transport of whoever follows a clock. */
interface Moves {
  happens(event: EventNow): boolean;
  osc(output: string, packet: Uint8Array): void;
  /** Something that is held as OSC begins, or with null ends. */
  oscVoice(output: string, packet: Uint8Array, held: string, end: Uint8Array | null): void;
  outputs(): readonly RigOutput[];
  song: SongTime;
  /** Whoever is told of it; asked each time, since that may be another. */
  told(): Pick<TakePlayerWorld, 'wants' | 'punch'> & { changed(): void };
  /** Something may be due at another time now. */
  settled(): void;
}

export function takeWorld({ happens, osc, oscVoice, outputs, song, told, settled }: Moves): TakePlayerWorld {
  /** What is held as OSC, and what ends it. */
  const voices = new Map<string, () => void>();
  const voice = (output: string, packet: Uint8Array, { held, end }: HeldByPacket) => {
    oscVoice(output, packet, held, end);
    if (end) voices.set(`${output} ${held}`, () => oscVoice(output, end, held, null));
    else voices.delete(`${output} ${held}`);
  };
  return {
    nowMs: hubTimeMs,
    /** One message: MIDI, or a packet of OSC. */
    play(output, bytes, ofVoice) {
      if (bytes[0]! >= STATUS.noteOff) return void happens({ kind: 'play', output, bytes });
      if (!outputs().some((way) => way.id === output && takes(way) === 'osc')) return;
      const held = ofVoice ? heldByPacket(bytes) : null;
      if (held) voice(output, bytes, held);
      else osc(output, bytes);
    },
    endNotes() {
      happens({ kind: 'endTake' });
      for (const end of voices.values()) end();
      voices.clear();
    },
    wants: (play, untilMs) => told().wants(play, untilMs),
    punch: (isIn) => told().punch(isIn),
    changed(tempoBpm) {
      song.ofTakes(tempoBpm);
      for (const { id, sendsClock } of outputs()) if (sendsClock) happens({ kind: 'play', output: id, bytes: Uint8Array.of(tempoBpm === null ? STATUS.stop : STATUS.start) });
      settled();
      told().changed();
    },
  };
}
