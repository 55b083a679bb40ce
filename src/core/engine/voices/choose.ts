import { NONE } from '../planMapping';
import type { Running } from '../running';
import type { Priority } from '../../voices/layout';
import { AT, LIFE, LIVES, lifeAt, type VoiceMemory } from './memory';
import { AXIS, type PlannedVoiceMapping, type PlannedWay } from './planVoices';
import { voiceMappingOf } from './write';

/** Where the voices of a voice mapping go now. */
export function wayOf({ memory: { voices } }: Running, planned: PlannedVoiceMapping): PlannedWay {
  return voices.alone[planned.output] ? planned.alone : planned.together;
}

/**
 * A place for a voice that begins: the free one that was released longest ago, else that of a sounding voice by the rule of the
 * layout. NONE where none makes room.
 */
export function choosePlace(r: Running, { layout, pool }: PlannedWay, pitch: number): number {
  const { voices } = r.memory;
  const { busy, freed } = voices.pools[pool]!;
  let best = NONE;
  for (let place = 0; place < busy.length; place++) if (busy[place] === NONE && (best === NONE || freed[place]! < freed[best]!)) best = place;
  if (best !== NONE || layout.kind === 'mono' || layout.steal === 'refuse') return best;
  const lowest = layout.steal === 'notLowest' ? lowestOf(voices, busy, pitch) : NONE;
  for (let place = 0; place < busy.length; place++) {
    if (busy[place] === lowest) continue;
    if (best === NONE || goesFirst(r, layout.steal, busy[place]!, busy[best]!)) best = place;
  }
  return best;
}

/** The life that sounds lowest; NONE where the new voice is the lowest. */
function lowestOf(voices: VoiceMemory, busy: Int32Array, pitch: number): number {
  let lowest = NONE;
  let least = pitch;
  for (const life of busy) {
    const its = voices.at[lifeAt(life) + AT.pitch]!;
    if (its >= least) continue;
    least = its;
    lowest = life;
  }
  return lowest;
}

function goesFirst(r: Running, steal: string, life: number, other: number): boolean {
  const { voices } = r.memory;
  if (steal === 'quietest') {
    const [a, b] = [loudness(r, life), loudness(r, other)];
    if (a !== b) return a < b;
  }
  return voices.at[lifeAt(life) + AT.began]! < voices.at[lifeAt(other) + AT.began]!;
}

/** How loud a voice is taken to be: as it is pressed, where that is sent and it is; else as it was struck. */
function loudness({ memory: { voices }, plan }: Running, life: number): number {
  const pressure = voices.at[lifeAt(life) + AT.pressure]!;
  return plan.voices[voiceMappingOf(life)]!.axes[AXIS.pressure] && pressure > 0 ? pressure : voices.at[lifeAt(life) + AT.strike]!;
}

/** The voice whose turn it is where one sounds at a time. */
export function chooseLife(voices: VoiceMemory, v: number, priority: Priority): number {
  let best = NONE;
  for (let life = v * LIVES; life < (v + 1) * LIVES; life++) {
    if (voices.life[life] === LIFE.free) continue;
    if (best === NONE || comesFirst(voices, priority, lifeAt(life), lifeAt(best))) best = life;
  }
  return best;
}

function comesFirst({ at }: VoiceMemory, priority: Priority, life: number, other: number): boolean {
  const higher = at[life + AT.pitch]! - at[other + AT.pitch]!;
  if (priority === 'highest' && higher !== 0) return higher > 0;
  if (priority === 'lowest' && higher !== 0) return higher < 0;
  return at[life + AT.began]! > at[other + AT.began]!;
}
