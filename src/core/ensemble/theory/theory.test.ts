import { describe, expect, it } from 'vitest';
import { NOTE_NAMES } from '../../midi/describe';
import { HARMONIC_MODES, nearestDegree, stackedThirds, stepOf } from './degrees';
import { intervalsOf, QUALITIES } from './qualities';
import { closePosition, leastMovement, movement, spreadOut } from './voicing';
import { readTuning, stopped, tunedTo, TUNINGS } from './strings';
import { sequenceOf } from './arpeggioOrder';
import { MODES, type Mode } from '../../voices/scale';
import { chordName, romanNumeral } from './names';
import { namesIn } from './spelling';

/** Semitones above the root in the words of thirds, so that the tables below read as in a book. */
const TRIADS = { major: '0 4 7', minor: '0 3 7', diminished: '0 3 6', augmented: '0 4 8' } as const;
type Triad = keyof typeof TRIADS;
const triadOf = (tones: readonly number[]) => (Object.keys(TRIADS) as Triad[]).find((name) => TRIADS[name] === tones.map((tone) => tone - tones[0]!).join(' '));

describe('chords of the degrees of a key', () => {
  // Piston, Harmony: triads on the degrees of the major scale and of the three minor ones (from memory; any textbook has the table).
  it.each([
    ['major', ['major', 'minor', 'minor', 'major', 'major', 'minor', 'diminished']],
    ['minor', ['minor', 'diminished', 'major', 'minor', 'minor', 'major', 'major']],
    ['harmonic minor', ['minor', 'diminished', 'augmented', 'minor', 'major', 'major', 'diminished']],
    ['melodic minor', ['minor', 'minor', 'augmented', 'major', 'major', 'diminished', 'diminished']],
  ] as const)('are in %s what the table of triads says', (mode, triads) => {
    expect([1, 2, 3, 4, 5, 6, 7].map((degree) => triadOf(stackedThirds(mode, degree, 3)))).toEqual(triads);
  });
  it('are in a mode those of major from another degree on (church modes)', () => {
    const major = [1, 2, 3, 4, 5, 6, 7].map((degree) => triadOf(stackedThirds('major', degree, 3)));
    (['major', 'dorian', 'phrygian', 'lydian', 'mixolydian', 'minor', 'locrian'] as const).forEach((mode, from) => {
      expect([1, 2, 3, 4, 5, 6, 7].map((degree) => triadOf(stackedThirds(mode, degree, 3)))).toEqual([...major.slice(from), ...major.slice(0, from)]);
    });
  });
  it('have sevenths: in major maj7, m7, m7, maj7, 7, m7, m7b5', () => {
    const sevenths = ['maj7', 'm7', 'm7', 'maj7', '7', 'm7', 'm7b5'] as const;
    sevenths.forEach((quality, i) => {
      const tones = stackedThirds('major', i + 1, 4);
      expect(tones.map((tone) => tone - tones[0]!)).toEqual(intervalsOf(quality));
    });
  });
  it('are written with Roman numerals', () => {
    expect([1, 2, 3, 4, 5, 6, 7].map((degree) => romanNumeral('minor', degree))).toEqual(['i', 'ii°', 'III', 'iv', 'v', 'VI', 'VII']);
    expect(romanNumeral('harmonic minor', 3)).toBe('III+');
  });
  it('go on an octave higher beyond the seventh degree', () => {
    for (const mode of HARMONIC_MODES) expect(stepOf(mode, 8)).toBe(12);
    expect(stackedThirds('major', 7, 3)).toEqual([11, 14, 17]);
  });
  it('are found by the nearest degree to a sung pitch, in any octave', () => {
    // C major: F#4 (66) lies between F and G; of two equally near the lower.
    expect([60, 62.2, 64.9, 66, 47, 71.9].map((pitch) => nearestDegree(0, 'major', pitch))).toEqual([1, 2, 4, 4, 7, 1]);
    expect(nearestDegree(2, 'major', 61)).toBe(7);
  });
});

describe('kinds of chords', () => {
  // Semitones by the names of intervals: thirds 3 or 4, fifth 7, sevenths 10 or 11, ninth 14, eleventh 17, thirteenth 21 (theory of intervals).
  it.each([
    ['M', [0, 4, 7]],
    ['m', [0, 3, 7]],
    ['sus2', [0, 2, 7]],
    ['sus4', [0, 5, 7]],
    ['dim7', [0, 3, 6, 9]],
    ['m7b5', [0, 3, 6, 10]],
    ['9', [0, 4, 7, 10, 14]],
    ['maj9', [0, 4, 7, 11, 14]],
    ['m11', [0, 3, 7, 10, 14, 17]],
    ['13', [0, 4, 7, 10, 14, 21]],
  ] as const)('%s has the tones of its name', (quality, tones) => expect(intervalsOf(quality)).toEqual(tones));
  it('are all known, and rise from their root', () => {
    for (const quality of QUALITIES) {
      expect(intervalsOf(quality)[0]).toBe(0);
      expect([...intervalsOf(quality)].sort((a, b) => a - b)).toEqual(intervalsOf(quality));
    }
  });
  it('go by their names', () => {
    expect([chordName(0, [60, 64, 67]), chordName(9, [57, 60, 64, 67]), chordName(7, [55, 59, 62, 65]), chordName(0, [55, 60, 64])]).toEqual(['C', 'Am7', 'G7', 'C/G']);
    expect(chordName(0, [60, 61, 62])).toBe('C C♯ D');
    expect([chordName(6, [66, 69, 73], namesIn(2, 'major')), chordName(6, [66, 70, 73], namesIn(1, 'major')), chordName(4, [56, 59, 64], namesIn(9, 'minor')), chordName(3, [67, 70, 75])]).toEqual(['F♯m', 'G♭', 'E/G♯', 'E♭/G']);
    expect([chordName(1, [61, 64, 68], namesIn(9, 'major')), chordName(1, [61, 64, 67], namesIn(2, 'major')), chordName(10, [70, 74, 77, 80])]).toEqual(['C♯m', 'C♯dim', 'B♭7']);
  });
});

describe('what tones are called in a key', () => {
  // Scales as any textbook of harmony writes them, from memory.
  it.each([
    [0, 'major', 'C D E F G A B'],
    [2, 'major', 'D E F♯ G A B C♯'],
    [4, 'major', 'E F♯ G♯ A B C♯ D♯'],
    [11, 'major', 'B C♯ D♯ E F♯ G♯ A♯'],
    [6, 'major', 'F♯ G♯ A♯ B C♯ D♯ E♯'],
    [1, 'major', 'D♭ E♭ F G♭ A♭ B♭ C'],
    [5, 'major', 'F G A B♭ C D E'],
    [9, 'minor', 'A B C D E F G'],
    [9, 'harmonic minor', 'A B C D E F G♯'],
    [9, 'melodic minor', 'A B C D E F♯ G♯'],
    [2, 'harmonic minor', 'D E F G A B♭ C♯'],
    [0, 'harmonic minor', 'C D E♭ F G A♭ B'],
    [1, 'harmonic minor', 'C♯ D♯ E F♯ G♯ A B♯'],
    [3, 'minor', 'E♭ F G♭ A♭ B♭ C♭ D♭'],
    [7, 'dorian', 'G A B♭ C D E F'],
    [4, 'phrygian', 'E F G A B C D'],
    [5, 'lydian', 'F G A B C D E'],
    [9, 'mixolydian', 'A B C♯ D E F♯ G'],
    [11, 'locrian', 'B C D E F G A'],
    [4, 'minor pentatonic', 'E G A B D'],
  ] as const)('%i %s is %s', (tonic, mode, scale) => expect(MODES[mode].map((step) => namesIn(tonic, mode)[(tonic + step) % 12]).join(' ')).toBe(scale));
  it('of the twelve tones no two have one name, and each has that of its key on a keyboard', () => {
    const letters: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
    for (const mode of Object.keys(MODES) as Mode[]) {
      for (let tonic = 0; tonic < 12; tonic++) {
        const names = namesIn(tonic, mode);
        names.forEach((name, pitchClass) => expect((letters[name[0]!]! + (name.endsWith('♯') ? 1 : name.endsWith('♭') ? 11 : 0)) % 12).toBe(pitchClass));
        expect(new Set(names).size).toBe(12);
      }
    }
  });
  it('are in C those that notes have everywhere', () => expect([namesIn(0, 'major'), namesIn(0, 'chromatic')]).toEqual([[...NOTE_NAMES], [...NOTE_NAMES]]));
});

describe('how a chord lies', () => {
  it('is inverted by its lowest tones going up an octave: C E G, E G C, G C E', () => {
    expect([0, 1, 2, 3].map((inversion) => closePosition(0, [0, 4, 7], 60, inversion))).toEqual([[60, 64, 67], [64, 67, 72], [67, 72, 76], [60, 64, 67]]);
  });
  it('opens: C E G becomes C G E; Cmaj7 in drop 2 is G C E B', () => {
    expect(spreadOut([60, 64, 67], 'open')).toEqual([60, 67, 76]);
    expect(spreadOut([60, 64, 67, 71], 'drop 2')).toEqual([55, 60, 64, 71]);
    expect(spreadOut([60, 67], 'open')).toEqual([60, 67]);
  });
  // Common tones stay, the others go to the nearest (rules of close part writing): C to F keeps C, to G keeps G, to Am keeps C and E, to Em E and G.
  it.each([
    ['F', 5, [0, 4, 7], [60, 65, 69]],
    ['G', 7, [0, 4, 7], [59, 62, 67]],
    ['Am', 9, [0, 3, 7], [60, 64, 69]],
    ['Em', 4, [0, 3, 7], [59, 64, 67]],
  ] as const)('is led from C to %s by the least movement', (_, root, intervals, expected) => {
    expect(leastMovement(root, intervals, 60, [60, 64, 67])).toEqual(expected);
  });
  it('moves less than by any other inversion, round the circle of fifths', () => {
    let before = [60, 64, 67];
    for (let i = 1; i <= 24; i++) {
      const root = (i * 7) % 12;
      const led = leastMovement(root, [0, 4, 7], 60, before);
      for (const shift of [-12, 0, 12]) for (const inversion of [0, 1, 2]) {
        const other = closePosition(root, [0, 4, 7], 60, inversion).map((tone) => tone + shift);
        if (other[0]! >= 53 && other[0]! <= 72) expect(movement(before, led)).toBeLessThanOrEqual(movement(before, other));
      }
      before = led;
    }
  });
});

describe('strings', () => {
  it('are tuned as published: guitar E2 A2 D3 G3 B3 E4, violin in fifths from G3', () => {
    expect(TUNINGS.guitar).toEqual([40, 45, 50, 55, 59, 64]);
    expect(TUNINGS.violin!.map((open) => open - 55)).toEqual([0, 7, 14, 21]);
  });
  it('sound the first tone of the chord from the open string up: G major on a guitar is 3 2 0 0 0 3, Em 0 2 2 0 0 0', () => {
    expect(stopped(TUNINGS.guitar!, [55, 59, 62]).map((pitch, i) => pitch - TUNINGS.guitar![i]!)).toEqual([3, 2, 0, 0, 0, 3]);
    expect(stopped(TUNINGS.guitar!, [52, 55, 59]).map((pitch, i) => pitch - TUNINGS.guitar![i]!)).toEqual([0, 2, 2, 0, 0, 0]);
  });
  it('open strings are read as they are written, and nothing is none', () => {
    expect(readTuning(' 40, 45 50,55 ')).toEqual([40, 45, 50, 55]);
    for (const none of ['', '  ', '40 H', '40.5', '128', '-1', Array.from({ length: 13 }, () => 40).join(' ')]) expect(() => readTuning(none)).toThrow('nothing was changed');
  });

  it('without a tuning rise through the chord over octaves', () => {
    expect(tunedTo([60, 64, 67], 6)).toEqual([60, 64, 67, 72, 76, 79]);
    expect(tunedTo([55, 60, 64, 67], 5)).toEqual([55, 60, 64, 67, 72]);
    expect(tunedTo([], 6)).toEqual([]);
  });
});

describe('arpeggios, by hand', () => {
  const held = [64, 60, 67];
  it.each([
    ['up', 1, [60, 64, 67]],
    ['down', 1, [67, 64, 60]],
    ['both', 1, [60, 64, 67, 64]],
    ['as played', 1, [64, 60, 67]],
    ['up', 2, [60, 64, 67, 72, 76, 79]],
    ['both', 2, [60, 64, 67, 72, 76, 79, 76, 72, 67, 64]],
  ] as const)('%s over %i octaves', (order, octaves, expected) => expect(sequenceOf(order, held, octaves)).toEqual(expected));
  it('of one note, and of none', () => {
    expect(sequenceOf('both', [60], 1)).toEqual([60]);
    expect(sequenceOf('up', [], 3)).toEqual([]);
  });
});
