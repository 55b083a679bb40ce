import { pitchOfHz } from './pitch';

/** What a scale makes of the keys: by key 0 to 127 its pitch in semitones (69 = 440 Hz), null where it plays nothing. */
export interface Tuning {
  keys: (number | null)[];
}

/** How a scale lies on the keys, as a .kbm file says it: see `scala`. */
export interface KeyMap {
  /** Keys outside of these play nothing. */
  first: number;
  last: number;
  /** The key that the first entry of the list stands for. */
  middle: number;
  /** The key whose frequency is given, and that frequency. */
  reference: { key: number; hz: number };
  /** The degree of the scale that is a turn further after each pass of the list. */
  period: number;
  /** By key from the middle one up, over and over: its degree, null where it plays nothing. Empty: all degrees in a row. */
  degrees: (number | null)[];
}

const KEYS = 128;
const CENTS = 100;

/** Where nothing else was said: all degrees in a row from middle C, whose A is 440 Hz. */
export const PLAIN_KEY_MAP: KeyMap = { first: 0, last: KEYS - 1, middle: 60, reference: { key: 69, hz: 440 }, period: 0, degrees: [] };

/**
 * Lays a scale onto the keys.
 * @param cents of degree 1 up to the period, the unison not among them; at least one
 * @returns by key its pitch; all null where the reference key itself has no degree, for then nothing has a pitch
 */
export function tuningOf(cents: readonly number[], map: KeyMap): Tuning {
  const semitonesOf = (degree: number) => {
    const turns = Math.floor(degree / cents.length);
    const within = degree - turns * cents.length;
    return (turns * cents.at(-1)! + (within === 0 ? 0 : cents[within - 1]!)) / CENTS;
  };
  const { degrees, middle } = map;
  const period = map.period > 0 ? map.period : cents.length;
  const semitonesOfKey = (key: number): number | null => {
    const away = key - middle;
    if (degrees.length === 0) return semitonesOf(away);
    const turns = Math.floor(away / degrees.length);
    const degree = degrees[away - turns * degrees.length] ?? null;
    return degree === null ? null : semitonesOf(degree) + turns * semitonesOf(period);
  };
  const reference = semitonesOfKey(map.reference.key);
  const shift = reference === null ? null : pitchOfHz(map.reference.hz) - reference;
  return {
    keys: Array.from({ length: KEYS }, (_, key) => {
      const semitones = key < map.first || key > map.last ? null : semitonesOfKey(key);
      return semitones === null || shift === null ? null : semitones + shift;
    }),
  };
}
