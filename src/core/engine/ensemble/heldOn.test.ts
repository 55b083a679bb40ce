import { describe, expect, it } from 'vitest';
import type { MemberPart } from '../../ensemble/parts';
import type { RigDocument } from '../../rig/document';
import { crew, member, playCrew, struck, swell } from './testCrew';

/** The bell is pressed, let go of by a line that broke, on again because it was held all the while, and lifted: how many notes of the last member begin by each. */
function held(rig: RigDocument) {
  const { engine, index, press, move, run, heard } = playCrew(rig);
  press(0, 60);
  heard();
  const begun = () => struck(heard(), rig.members.length).length;
  const by: number[] = [];
  for (const [fromMs, happens] of [[100, () => move('bell', 100, 1)], [200, () => move('bell', 200, 0)], [300, () => engine.take({ kind: 'heldOn', timeMs: 300, signal: index('bell'), value: 1 })], [400, () => move('bell', 400, 0)]] as const) {
    happens();
    run(fromMs, fromMs + 96);
    by.push(begun());
  }
  return { by, running: engine.running };
}

describe('a gate that was held through a lost line', () => {
  const strum: MemberPart = { kind: 'strum', listens: 'chord', by: 'bell', strings: 6, directions: 'both', ringMs: 400, dampedBy: 'chord', fullMs: 100 };
  const notes: MemberPart & { kind: 'stream' } = { kind: 'stream', everyBeats: 0.5, pitch: 'fog', low: 60, high: 72, tonic: 0, mode: 'major', strike: 1, length: 0.5, by: 'bell' };
  const chord: MemberPart = { ...swell, from: { by: 'gates', gates: [{ gate: 'bell', degree: 1 }] } };
  it('strikes no strings, no note of its own length, and no chord that stayed, a second time', () => {
    expect(held(crew(member(swell), member(strum))).by).toEqual([6, 0, 0, 0]);
    expect(held(crew(member(notes))).by).toEqual([1, 0, 0, 0]);
    expect(held(crew(member({ ...chord, stays: 'sounding' }))).by).toEqual([3, 0, 0, 0]);
  });
  it('sounds again what sounds as long as it is held', () => {
    expect(held(crew(member({ ...notes, holds: true }))).by).toEqual([1, 0, 1, 0]);
    expect(held(crew(member(chord))).by).toEqual([3, 0, 3, 0]);
  });
  it('does not start a piece that was stopped meanwhile', () => {
    const rig = { ...crew(member({ ...notes, holds: true })), startsBy: 'first note' as const };
    const { engine, index, move, does } = playCrew(rig);
    move('bell', 100, 1);
    move('bell', 200, 0);
    does(250, 'stop');
    engine.take({ kind: 'heldOn', timeMs: 300, signal: index('bell'), value: 1 });
    expect(engine.running).toBe(false);
  });
});

describe('a gate that an edit finds on', () => {
  const within = (part: MemberPart, of: string): RigDocument => {
    const rig = crew(...(part.kind === 'chord' ? [] : [member(swell)]), member(part, { id: 'played' }));
    rig.derived = [{ id: 'd', name: 'D', kind: 'gate', unit: 'unit', range: [0, 1], formula: { op: 'maximum', of: [of, of] } }];
    return rig;
  };
  const by = { everyBeats: 0.25, pitch: 'fog', low: 60, high: 72, tonic: 0, mode: 'major', strike: 1, length: 0.5 } as const;
  it.each<[string, MemberPart]>([
    ['strings', { kind: 'strum', listens: 'chord', by: 'd', strings: 6, directions: 'both', ringMs: 400, dampedBy: 'chord', fullMs: 100 }],
    ['a note', { kind: 'stream', ...by, by: 'd' }],
    ['a note that is held', { kind: 'stream', ...by, by: 'd', holds: true }],
    ['notes while it is on', { kind: 'stream', ...by, while: 'd' }],
    ['a chord', { ...swell, from: { by: 'gates', gates: [{ gate: 'd', degree: 1 }] } }],
    ['chords of a signal', { ...swell, from: { by: 'signal', signal: 'fog', gate: 'd' } }],
  ])('asks for nothing before it was let go of: %s', (_, part) => {
    const { engine, press, move, run, heard } = playCrew(within(part, 'fog.touch'));
    move('fog', 0, 0.5);
    move('fog.touch', 0, 0);
    press(0, 60);
    move('bell', 50, 1);
    run(54, 90);
    heard();
    const channel = part.kind === 'chord' ? 1 : 2;
    engine.take({ kind: 'rig', timeMs: 100, rig: within(part, 'bell') });
    run(104, 900);
    move('fog', 900, 0.9);
    run(904, 1500);
    expect(struck(heard(), channel)).toEqual([]);
    move('bell', 1500, 0);
    move('bell', 1600, 1);
    run(1604, 2000);
    expect(struck(heard(), channel)).not.toEqual([]);
  });
});
