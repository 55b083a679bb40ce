import { placesBy } from '../places';
import type { Plan } from '../plan';
import type { Running } from '../running';
import { LIFE, LIVES } from './memory';
import { AXES, AXIS } from './planVoices';
import { writeBend } from './write';

/**
 * After an edit that is about no voice mapping: what sounds is bent by another number where its receiver bends by another range, and is
 * pulled anew, by the ticks that follow, where the scale that is kept in the rig has other pitches.
 */
export function retune(r: Running, before: Plan): void {
  const { life: lives, active } = r.memory.voices;
  const placeOf = placesBy(before.voices, ({ rig }) => rig.id);
  r.plan.voices.forEach((planned, v) => {
    const was = before.voices[placeOf(planned.rig.id, v)];
    if (!was) return;
    const bendsOtherwise = was.bendRangeSemitones !== planned.bendRangeSemitones;
    const isPulledAnew = was.pitches !== planned.pitches && was.pitches.join() !== planned.pitches.join();
    if (!bendsOtherwise && !isPulledAnew) return;
    for (let life = v * LIVES; life < (v + 1) * LIVES; life++) {
      if (lives[life] !== LIFE.sounding) continue;
      if (bendsOtherwise) writeBend(r, life, planned, 'moving');
      if (isPulledAnew) active.add(life * AXES + AXIS.pitch);
    }
  });
}
