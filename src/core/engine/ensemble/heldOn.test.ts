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
