import { describe, expect, it } from 'vitest';
import { crew, keys, member, playCrew, sounding, struck, swell } from './testCrew';

describe('a chord', () => {
  it('plays the chord of the degree of a key, and ends with it', () => {
    const { press, lift, heard } = playCrew(crew(member(swell)));
    press(0, 62, 100 / 127);
    // D is the second degree of C major: D minor.
    expect(heard()).toEqual([[0, 1, 62, 100], [0, 1, 65, 100], [0, 1, 69, 100]]);
    lift(500, 62);
    expect(heard().map(([, , key, velocity]) => [key, velocity])).toEqual([[62, 0], [65, 0], [69, 0]]);
  });
  it('goes back to the chord that is still held, and the last one pressed leads', () => {
    const { press, lift, heard } = playCrew(crew(member(swell)));
    press(0, 60);
    press(100, 67);
    lift(200, 67);
    lift(300, 60);
    expect(keys(heard())).toEqual([60, 64, 67, 67, 71, 74, 60, 64, 67]);
  });
  it('is asked for by gates, one a degree, with their strength, and takes another quality while a gate is on', () => {
    const rig = crew(member({ ...swell, from: { by: 'gates', gates: [{ gate: 'fog.touch', degree: 1 }, { gate: 'bell', degree: 2 }] }, qualities: [{ gate: 'seventh', quality: '7' }] }));
    rig.signals.push({ id: 'seventh', name: 'Seventh', input: 'deck', kind: 'gate', unit: 'unit', range: [0, 1] });
    const { move, heard } = playCrew(rig);
    move('bell', 0, 0.5);
    expect(heard()).toEqual([[0, 1, 62, 64], [0, 1, 65, 64], [0, 1, 69, 64]]);
    move('seventh', 100, 1);
    expect(keys(heard())).toEqual([62, 66, 69, 72]);
    move('seventh', 200, 0);
    expect(keys(heard())).toEqual([62, 65, 69]);
    move('bell', 300, 0);
    expect(sounding(heard().filter(([, , , velocity]) => velocity > 0)).left).toEqual([]);
  });
  it('is asked for by where a signal lies: seven equal parts of its range', () => {
    const { move, heard } = playCrew(crew(member({ ...swell, from: { by: 'signal', signal: 'fog', gate: 'bell' } })));
    move('fog', 0, 0.99);
    expect(heard()).toEqual([]);
    move('bell', 10, 1);
    expect(keys(heard())).toEqual([71, 74, 77]);
    move('fog', 20, 0.97);
    expect(heard()).toEqual([]);
    move('fog', 30, 0.3);
    expect(keys(heard())).toEqual([64, 67, 71]);
    move('bell', 40, 0);
    expect(keys(heard())).toEqual([]);
  });
  it('is not struck over and over by a signal that trembles between two parts', () => {
    const { move, heard } = playCrew(crew(member({ ...swell, from: { by: 'signal', signal: 'fog' } })));
    // The border of the third and the fourth part, within a twentieth of a part.
    for (let i = 0; i < 40; i++) move('fog', i * 10, 3 / 7 + (i % 2 === 0 ? -0.007 : 0.007));
    expect(keys(heard()).length).toBe(3);
    move('fog', 500, 3.3 / 7);
    expect(keys(heard())).toEqual([65, 69, 72]);
    move('fog', 510, 1);
    move('fog', 520, 0);
    expect(keys(heard())).toEqual([71, 74, 77, 60, 64, 67]);
  });
  it('leads its voices, lies apart over a bass of its own, and has chords of one’s own', () => {
    const led = playCrew(crew(member({ ...swell, leads: true, bass: 'root', low: 60 })));
    led.press(0, 60);
    led.press(100, 65);
    expect(keys(led.heard())).toEqual([48, 60, 64, 67, 53, 60, 65, 69]);
    const own = playCrew(crew(member({ ...swell, own: [{ degree: 4, tones: [5, 11, 14] }] })));
    own.press(0, 65);
    expect(keys(own.heard())).toEqual([65, 71, 74]);
  });
  it('waits for the bar where it begins there and the transport runs; at once where it stands', () => {
    const { press, does, run, heard } = playCrew(crew(member(swell, { begins: 'bar' })));
    press(0, 60);
    expect(keys(heard())).toEqual([60, 64, 67]);
    does(1000, 'start');
    press(1100, 65);
    run(1100, 2996);
    expect(heard().filter(([, , , velocity]) => velocity > 0)).toEqual([]);
    run(3000, 3010);
    // 4/4 at 120 bpm: two seconds a bar.
    expect(struck(heard())).toEqual([[3000, 65], [3000, 69], [3000, 72]]);
  });
});

it('a chord that stays and begins on the bar is taken although it was let go of before', () => {
  const { press, lift, does, run, heard } = playCrew(crew(member({ ...swell, stays: 'sounding' }, { begins: 'bar' })));
  does(0, 'start');
  press(0, 60);
  lift(100, 60);
  press(300, 67);
  lift(400, 67);
  run(400, 1996);
  expect(struck(heard())).toEqual([[0, 60], [0, 64], [0, 67]]);
  run(2000, 4100);
  expect(struck(heard())).toEqual([[2000, 67], [2000, 71], [2000, 74]]);
});

it('what stays of a chord that is let go of: nothing, the chord for others, or its sound', () => {
  const left = (stays: 'nothing' | 'for others' | 'sounding') => {
    const { engine, press, lift, heard } = playCrew(crew(member({ ...swell, stays })));
    press(0, 60);
    lift(100, 60);
    const [shown] = engine.ensemble.shown();
    return [sounding(heard()).left.length, shown!.harmony?.tones.length ?? 0];
  };
  expect([left('nothing'), left('for others'), left('sounding')]).toEqual([[0, 0], [0, 3], [3, 3]]);
  // One that was tapped before its bar is the chord from there on, and sounds no more.
  const { engine, press, lift, does, run, heard } = playCrew(crew(member({ ...swell, stays: 'for others' }, { begins: 'bar' })));
  does(0, 'start');
  press(100, 65);
  lift(200, 65);
  run(200, 2100);
  expect(heard()).toEqual([]);
  expect(engine.ensemble.shown()[0]!.harmony!.root).toBe(5);
});

it('the chord that is left for others is what it was, whatever else is edited', () => {
  const rig = crew(member({ ...swell, stays: 'for others', qualities: [{ gate: 'bell', quality: 'm7' }] }));
  const { engine, press, lift, move } = playCrew(rig);
  const left = () => engine.ensemble.shown()[0]!.harmony?.tones;
  move('bell', 0, 1);
  press(10, 60);
  lift(20, 60);
  move('bell', 30, 0);
  expect(left()).toEqual([60, 63, 67, 70]);
  engine.take({ kind: 'rig', timeMs: 40, rig: { ...structuredClone(rig), name: 'Another' } });
  expect(left()).toEqual([60, 63, 67, 70]);
  engine.take({ kind: 'rig', timeMs: 50, rig: { ...rig, members: [{ ...rig.members[0]!, part: { ...swell, stays: 'nothing' } }] } });
  expect(left()).toBeUndefined();
});
