import { setContext } from 'tone/build/esm/core/Global.js';
import { OfflineContext } from 'tone/build/esm/core/context/OfflineContext.js';
import { Part } from '../../src/core/instruments/part';
import type { InstrumentId } from '../../src/core/instruments/instruments';
import { makeInstrument } from '../../src/web/sound/instruments';
import * as tone from '../../src/web/sound/tone';

/** MIDI at times in seconds. */
export type Score = [atS: number, ...bytes: number[]][];

/**
 * Plays MIDI on one of the instruments faster than it sounds, and gives what the left loudspeaker would: a program for a page, made
 * by `soundRoom` in `sound.spec.ts`.
 */
async function play(instrument: InstrumentId, score: Score, lengthS: number): Promise<{ sampleRate: number; samples: number[] }> {
  const sampleRate = 44_100;
  const context = new OfflineContext(2, lengthS, sampleRate);
  setContext(context);
  const output = new tone.Volume(0).toDestination();
  const made = makeInstrument(tone, instrument, output);
  const part = new Part({ instrument, learned: [] }, { bendRangeSemitones: 2 }, made);
  for (const [atS, ...bytes] of score) context.setTimeout(() => part.push(Uint8Array.from(bytes)), atS);
  const buffer = await context.render();
  return { sampleRate, samples: [...buffer.getChannelData(0)] };
}

Object.assign(window, { playOffline: play });
