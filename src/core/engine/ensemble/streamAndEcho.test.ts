import { describe, expect, it } from 'vitest';
import { crew, member, playCrew, sounding, struck } from './testCrew';

describe('a stream and an echo', () => {
  it('plays at a tempo what signals say, in the scale', () => {
    const { move, run, heard } = playCrew(crew(member({ kind: 'stream', everyBeats: 0.5, pitch: 'fog', low: 60, high: 72, tonic: 0, mode: 'major', strike: 1, length: 0.5, while: 'bell' })));
    move('fog', 0, 0);
    move('bell', 0, 1);
    run(0, 240);
    move('fog', 245, 0.5);
    run(248, 490);
    move('bell', 490, 0);
    run(492, 2000);
    const all = heard();
    // Half of the way is F#4: of F and G, equally near, the lower.
    expect(struck(all)).toEqual([[0, 60], [250, 65]]);
    expect(sounding(all)).toEqual({ left: [], mistakes: [] });
  });
  it('plays when a gate says so: one note each time, as hard as the gate, as long as it is on or its length, and none while the other gate is off', () => {
    const part = { kind: 'stream', everyBeats: 0.5, pitch: 'fog', low: 60, high: 72, tonic: 0, mode: 'major', strike: 1, length: 0.5, while: 'fog.touch', by: 'bell' } as const;
    for (const holds of [true, false]) {
      const { move, run, heard } = playCrew(crew(member({ ...part, ...(holds && { holds }) })));
      move('fog', 0, 0);
      move('bell', 0, 1);
      move('bell', 40, 0);
      run(0, 100);
      move('fog.touch', 100, 1);
      move('bell', 200, 0.5);
      run(200, 900);
      move('bell', 900, 0);
      move('bell', 1000, 1);
      run(1000, 1050);
      // With the hand that is gone the note is gone.
      move('fog.touch', 1050, 0);
      run(1050, 2000);
      expect(heard()).toEqual([[200, 1, 60, 64], [holds ? 900 : 325, 1, 60, 0], [1000, 1, 60, 127], [1050, 1, 60, 0]]);
    }
  });
  it('a note that a gate holds ends where an edit takes the gate from it, by another gate, and without holding', () => {
    const bySteps = { kind: 'stream', everyBeats: 0.5, pitch: 'fog', low: 60, high: 72, tonic: 0, mode: 'major', strike: 1, length: 0.5 } as const;
    const part = { ...bySteps, by: 'bell', holds: true };
    for (const edited of [{ ...part, by: 'fog.touch' }, { ...part, holds: false }, bySteps] as const) {
      const { move, run, heard, engine } = playCrew(crew(member(part)));
      move('fog', 0, 0);
      move('bell', 10, 1);
      run(10, 100);
      engine.take({ kind: 'rig', timeMs: 100, rig: crew(member(edited)) });
      move('bell', 200, 0);
      run(200, 3000);
      expect(sounding(heard())).toEqual({ left: [], mistakes: [] });
    }
  });
  it('echoes come again, softer, as long as the notes were, and not after what was too soft', () => {
    const { press, lift, run, heard } = playCrew(crew(member({ kind: 'echo', listens: 'hull', times: 3, everyBeats: 0.5, softer: 0.5, fewer: 1, transpose: 0 })));
    press(0, 60, 1);
    lift(100, 60);
    run(0, 2000);
    expect(heard()).toEqual([[250, 1, 60, 64], [350, 1, 60, 0], [500, 1, 60, 32], [600, 1, 60, 0], [750, 1, 60, 16], [850, 1, 60, 0]]);
  });
});
