import { choice, list, whole, yesOrNo } from '../../messages/shapes';
import { ORDERS, sequenceOf } from '../theory/arpeggioOrder';
import type { Held, KindOf, Playing } from '../kind';
import type { ArpeggioPart } from '../parts';
import { listensTo } from './listensTo';
import { everyBeats, gate, stepShare, streamId, strike } from './shapes';

interface Memory {
  /** What it goes through, in the order in which it was struck; with latch also what was let go. */
  notes: (Held & { letGo: boolean })[];
  held: number;
}
type Play = Playing<ArpeggioPart, Memory>;

function playStep(play: Play, step: number): void {
  const { part, memory } = play;
  const { notes } = memory;
  // Two fingers on one key are one.
  const pitches = sequenceOf(part.order, [...new Set(notes.map(({ pitch }) => pitch))], part.octaves);
  if (pitches.length === 0) return;
  const accent = part.accents.length > 0 ? part.accents[step % part.accents.length]! : 1;
  const loudest = Math.max(...notes.map((note) => note.strike));
  const sound = (pitch: number) => play.sound(pitch, loudest * accent, { beats: part.length * part.everyBeats });
  if (part.order === 'chord') for (const pitch of pitches) sound(pitch);
  else sound(part.order === 'random' ? pitches[Math.floor(play.chance(step) * pitches.length)]! : pitches[step % pitches.length]!);
}

/** Without latch what was let go does not go on. */
function dropLetGo(memory: Memory, { latch }: ArpeggioPart): void {
  if (!latch) memory.notes = memory.notes.filter(({ letGo }) => !letGo);
}

export const arpeggio: KindOf<'arpeggio', Memory> = {
  name: 'Arpeggio',
  about: 'Goes through what is held, note by note.',
  fields: { listens: streamId, order: choice(...ORDERS), octaves: whole(1, 4), everyBeats, length: stepShare, accents: list(strike, 0, 64), latch: yesOrNo, while: gate },
  fresh: (rig) => ({ kind: 'arpeggio', listens: listensTo(rig, 'chord'), order: 'up', octaves: 1, everyBeats: 0.5, length: 0.7, accents: [], latch: false }),
  words: ({ order, listens, octaves }, nameOf) => `${order} through ${nameOf(listens)}${octaves > 1 ? `, ${octaves} octaves` : ''}`,
  remember: () => ({ notes: [], held: 0 }),
  hear({ memory, part }, _, held, on) {
    if (on) {
      if (part.latch && memory.held === 0) memory.notes = [];
      memory.held++;
      // With latch what was let go of comes anew where it is struck again.
      memory.notes = [...memory.notes.filter(({ voice, pitch }) => voice !== held.voice && !(part.latch && pitch === held.pitch)), { ...held, letGo: false }];
      return;
    }
    memory.held = Math.max(0, memory.held - 1);
    for (const note of memory.notes) if (note.voice === held.voice) note.letGo = true;
    dropLetGo(memory, part);
  },
  edited: ({ memory, part }) => dropLetGo(memory, part),
  steps: {
    withTransport: false,
    everyBeats: ({ part }) => part.everyBeats,
    goesOn: (play) => play.memory.notes.length > 0 && (play.part.while === undefined || play.isOn(play.part.while)),
    play: playStep,
  },
};
