import { setContext } from 'tone/build/esm/core/Global.js';
import { OfflineContext } from 'tone/build/esm/core/context/OfflineContext.js';
import type { InstrumentId } from '../../src/core/instruments/instruments';
import type { RigDocument } from '../../src/core/rig/document';
import type { Heard } from '../../src/protocol/frames';
import type { NamedFact } from '../../src/web/live/store';
import { Practice } from '../../src/web/sound/practice';
import * as tone from '../../src/web/sound/tone';

/** MIDI at times in seconds. */
export type Score = [atS: number, ...bytes: number[]][];

/** What is read of a rig and of a message that left, where one stand-in is all that there is. */
const OUTPUT = 'room';
const rigOf = (instrument: InstrumentId) => ({ outputs: [{ id: OUTPUT, kind: 'standIn', receiver: OUTPUT }], receivers: [{ id: OUTPUT, bendRangeSemitones: 2, sound: { instrument, learned: [] } }] }) as unknown as RigDocument;
const factOf = (bytes: number[]) => ({ where: OUTPUT, bytes: Uint8Array.from(bytes) }) as unknown as NamedFact;

/**
 * Plays MIDI on one of the instruments faster than it sounds, and gives what the left loudspeaker would: a program for a page, made
 * by `soundRoom` in `sound.spec.ts`. `held` is what its output holds before there is an instrument.
 */
async function play(instrument: InstrumentId, score: Score, lengthS: number, held: readonly Heard[] = []): Promise<{ sampleRate: number; samples: number[] }> {
  const sampleRate = 44_100;
  const context = new OfflineContext(2, lengthS, sampleRate);
  setContext(context);
  const practice = new Practice(tone, 0);
  practice.follow(rigOf(instrument));
  for (const output of practice.unknown) practice.holds(output, held);
  for (const [atS, ...bytes] of score) context.setTimeout(() => practice.hear([factOf(bytes)]), atS);
  const buffer = await context.render();
  return { sampleRate, samples: [...buffer.getChannelData(0)] };
}

Object.assign(window, { playOffline: play });
