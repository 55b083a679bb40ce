import { list, number, object, optional, whole } from '../../messages/shapes';
import type { KindOf, Playing } from '../kind';
import type { Hit, Lane, Pattern, PatternPart } from '../parts';
import { nextGrid } from '../../time/musicalTime';
import { OCTAVE } from '../theory/degrees';
import { everyBeats, gate, key, signal, streamId, strike } from './shapes';

export const STEPS_MOST = 64;
export const LANES_MOST = 16;
export const PATTERNS_MOST = 8;
const TIMES_MOST = 8;

interface Memory {
  /** The pattern that plays; another one waits for its time. */
  present: number;
}
type Play = Playing<PatternPart, Memory>;

/** The pattern that is wanted, before it is asked whether it is time for it. */
function wanted(play: Play): number {
  const { part } = play;
  const last = part.patterns.length - 1;
  return Math.min(last, part.chosenBy === undefined ? part.present : Math.floor(play.level(part.chosenBy) * part.patterns.length));
}

function playStep(play: Play, step: number): void {
  const { part, memory } = play;
  const isBar = Math.abs(nextGrid(step * part.everyBeats, play.barBeats) - step * part.everyBeats) < 1e-6;
  if (isBar || memory.present >= part.patterns.length || memory.present < 0) memory.present = wanted(play);
  const filled = part.fill && play.isOn(part.fill.gate) ? part.fill.pattern : memory.present;
  part.patterns[filled]?.lanes.forEach((lane, l) => {
    const at = step % lane.length;
    lane.hits.forEach((hit, h) => {
      if (hit.at === at) strikeHit(play, lane, hit, step * LANES_MOST + l + h * STEPS_MOST * LANES_MOST);
    });
  });
}

function strikeHit(play: Play, lane: Lane, { strike: hard, lasts, chance, times = 1 }: Hit, draw: number): void {
  const { everyBeats: every } = play.part;
  const pitch = pitchOf(play, lane);
  if (pitch === null || (chance !== undefined && play.chance(draw) >= chance)) return;
  const apart = every / times;
  const beats = times > 1 ? Math.min(apart * 0.9, lasts * every) : lasts * every;
  play.sound(pitch, hard, { beats });
  for (let i = 1; i < times; i++) play.later(i * apart, pitch, hard, { beats });
}

function pitchOf(play: Play, { plays }: Lane): number | null {
  const { part } = play;
  if ('note' in plays) return plays.note;
  const tones = part.listens === undefined ? [] : (play.harmony(part.listens)?.tones ?? []);
  return tones.length === 0 ? null : tones[plays.tone % tones.length]! + OCTAVE * Math.floor(plays.tone / tones.length);
}

/** Keys of a drum kit (General MIDI 1, percussion key map). */
export const DRUMS = { kick: 36, snare: 38, clap: 39, 'closed hat': 42, 'open hat': 46, 'low tom': 45, rim: 37, bell: 56 } as const;

const hits = (...at: number[]): Hit[] => at.map((step) => ({ at: step, strike: 0.8, lasts: 0.5 }));

/** A pattern to begin with: four lanes of drums over a bar of sixteenths. */
export function freshPattern(name: string): Pattern {
  return {
    name,
    lanes: [
      { name: 'kick', plays: { note: DRUMS.kick }, length: 16, hits: hits(0, 8) },
      { name: 'snare', plays: { note: DRUMS.snare }, length: 16, hits: hits(4, 12) },
      { name: 'closed hat', plays: { note: DRUMS['closed hat'] }, length: 16, hits: hits(0, 2, 4, 6, 8, 10, 12, 14) },
      { name: 'open hat', plays: { note: DRUMS['open hat'] }, length: 16, hits: [] },
    ],
  };
}

const place = whole(0, PATTERNS_MOST - 1);

export const pattern: KindOf<'pattern', Memory> = {
  name: 'Pattern',
  about: 'Plays drums or a tune by steps, while the transport runs.',
  fields: {
    everyBeats,
    listens: optional(streamId),
    patterns: list(
      object({
        name: { is: 'text', most: 60 },
        lanes: list(
          object({
            name: { is: 'text', most: 60 },
            plays: { is: 'having', field: 'note', then: object({ note: key }), otherwise: object({ tone: whole(0, 24) }) },
            length: whole(1, STEPS_MOST),
            hits: list(object({ at: whole(0, STEPS_MOST - 1), strike, lasts: number(0.05, STEPS_MOST), chance: optional(strike), times: optional(whole(1, TIMES_MOST)) }), 0, STEPS_MOST),
          }),
          0,
          LANES_MOST,
        ),
      }),
      1,
      PATTERNS_MOST,
    ),
    present: place,
    chosenBy: gate,
    fill: optional(object({ gate: signal, pattern: place })),
    while: gate,
  },
  fresh: () => ({ kind: 'pattern', everyBeats: 0.25, patterns: [freshPattern('A')], present: 0 }),
  words: ({ patterns, present }) => `${patterns[Math.min(present, patterns.length - 1)]!.name} of ${patterns.length}`,
  remember: () => ({ present: -1 }),
  asksBy: (part, signal) => part.while === signal,
  steps: {
    withTransport: true,
    everyBeats: ({ part }) => part.everyBeats,
    goesOn: (play) => play.part.while === undefined || play.isOn(play.part.while),
    play: playStep,
  },
};
