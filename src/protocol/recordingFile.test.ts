import { describe, expect, it } from 'vitest';
import { LIMITS } from './limits';
import { readRecording, writeRecordingCsv } from './recordingFile';

describe('reading a recording', () => {
  it.each([
    ['CSV with a heading in another order', 'signal,value,time\nrope,0.5,20\nrope,0.25,10\n'],
    ['CSV without a heading', '10,rope,0.25\n20,rope,0.5\n'],
    ['CSV with semicolons and Windows line ends', 'time;signal;value\r\n10;rope;0.25\r\n20;rope;0.5\r\n'],
    ['JSON lines', '{"signal":"rope","timeMs":10,"value":0.25}\n{"signal":"rope","time":20,"value":0.5}\n'],
    ['a byte order mark', '\uFEFFtime,signal,value\n10,rope,0.25\n20,rope,0.5\n'],
  ])('%s: sorted, counted from the first time', (_, text) => {
    expect(readRecording(text, 'Rope')).toEqual({ recording: { name: 'Rope', signals: ['rope'], timesMs: [0, 10], which: [0, 0], values: [0.25, 0.5] }, problems: [], badLines: 0 });
  });
  it.each([
    ['x,rope,1', 'its time is not a number of milliseconds.'],
    ['10,,1', 'it names no signal.'],
    ['10,rope,NaN', 'its value is not a finite number.'],
    ['10,rope,', 'its value is not a finite number.'],
    [`10,${'r'.repeat(LIMITS.nameLength + 1)},1`, `its signal has more than ${LIMITS.nameLength} letters.`],
  ])('%s is named and left out; the good ones stay', (line, message) => {
    const { recording, problems } = readRecording(`5,rope,0\n${line}\n6,rope,1\n`, 'Rope');
    expect([recording?.values, problems]).toEqual([[0, 1], [{ line: 2, message }]]);
  });
  it('lines are counted as they stand in the file, empty ones and the heading too', () => {
    const file = ['time;signal;value', '', '1;a;0,5', ' ; ;', '""', 'x;a;0,5', '2;a;', ''].join('\r\n');
    expect(readRecording(file, 'A').problems.map(({ line }) => line)).toEqual([6, 7]);
  });
  it('a broken JSON line is named', () => {
    expect(readRecording('{"timeMs":1,"signal":"a","value":1}\n{"timeMs":\n', 'A').problems).toEqual([{ line: 2, message: 'is not JSON.' }]);
  });
  it('too many problems are counted, the first few named', () => {
    const { problems, badLines } = readRecording('x,x,x\n'.repeat(100), 'Bad');
    expect([problems.length, badLines]).toEqual([LIMITS.recordingProblems, 100]);
  });
  it('too many samples are cut, and that is said', () => {
    const { recording, problems } = readRecording('1,a,1\n'.repeat(LIMITS.recordingSamples + 5), 'Long');
    expect([recording?.values.length, problems[0]?.line]).toEqual([LIMITS.recordingSamples, LIMITS.recordingSamples + 1]);
  });
  it.each([
    ['semicolons and decimal commas', 'time;signal;value\n0;fog;0,5\n12,5;fog;-1,25e1\n'],
    ['tabs and decimal commas', '0\tfog\t0,5\n12,5\tfog\t-12,5\n'],
    ['semicolons and points', '0;fog;0.5\n12.5;fog;-12.5\n'],
    ['cells in quotes', '"0","fog","0.5"\n"12.5","fog","-12.5"\n'],
  ])('%s', (_, text) => expect(readRecording(text, 'Table')).toMatchObject({ recording: { signals: ['fog'], timesMs: [0, 12.5], values: [0.5, -12.5] }, badLines: 0 }));
  it('a time that lies hours from most others is left out, not waited for', () => {
    const { recording, problems, badLines } = readRecording('0,fog,0.5\n1795963834000,fog,0.6\n1795963834010,fog,0.7\n1795963834020,swell,0.8\n9e15,fog,1', 'Clock');
    expect(recording).toMatchObject({ timesMs: [0, 10, 20], values: [0.6, 0.7, 0.8], which: [0, 0, 1] });
    expect(badLines).toBe(2);
    expect(problems[0]).toEqual({ line: 1, message: 'its time lies more than 6 hours from those of most others.' });
  });
  it('an empty file holds nothing', () => expect(readRecording('', 'Empty').recording).toBeNull());
});

it('what is written is read again the same', () => {
  const rows = [{ timeMs: 0, signal: 'a, "quoted"', value: -0.125 }, { timeMs: 12.5, signal: 'b', value: 1e-7 }];
  const { recording } = readRecording(writeRecordingCsv(rows), 'Again');
  expect(recording).toEqual({ name: 'Again', signals: ['a, "quoted"', 'b'], timesMs: [0, 12.5], which: [0, 1], values: [-0.125, 1e-7] });
});
