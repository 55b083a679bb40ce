import { STATUS } from '../core/midi/message';
import { takes } from '../core/rig/outputs';
import type { EventNow } from '../core/engine/event';
import type { RigOutput } from '../core/outputs/kinds';
import type { SongTime } from './songTime';
import type { TakePlayerWorld } from './takePlayer';
import { hubTimeMs } from './time';

/** What a take that plays moves in the hub: the engine, outputs of OSC, tempo and transport of whoever follows a clock. */
interface Moves {
  happens(event: EventNow): boolean;
  osc(output: string, packet: Uint8Array): void;
  outputs(): readonly RigOutput[];
  song: SongTime;
  /** Whoever is told of it; asked each time, since that may be another. */
  told(): Pick<TakePlayerWorld, 'wants' | 'punch'> & { changed(): void };
  /** Something may be due at another time now. */
  settled(): void;
}

export function takeWorld({ happens, osc, outputs, song, told, settled }: Moves): TakePlayerWorld {
  return {
    nowMs: hubTimeMs,
    /** One message: MIDI, or a packet of OSC. */
    play(output, bytes) {
      if (bytes[0]! >= STATUS.noteOff) happens({ kind: 'play', output, bytes });
      else if (outputs().some((way) => way.id === output && takes(way) === 'osc')) osc(output, bytes);
    },
    endNotes: () => void happens({ kind: 'endTake' }),
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
