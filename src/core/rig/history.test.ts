import fc from 'fast-check';
import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit, type RigEdit } from './edit';
import { editInWords } from './editWords';
import { editTarget, undoStacks, type HistoryStep } from './history';

const own = (number: number): HistoryStep => ({ number, undoes: null, redoes: null });

it('takes back the latest first, and makes again the one taken back last', () => {
  expect(undoStacks([own(1), own(2), own(3)])).toEqual({ undo: [1, 2, 3], redo: [] });
  expect(undoStacks([own(1), own(2), { number: 3, undoes: 2, redoes: null }])).toEqual({ undo: [1], redo: [2] });
  expect(undoStacks([own(1), own(2), { number: 3, undoes: 2, redoes: null }, { number: 4, undoes: null, redoes: 2 }])).toEqual({ undo: [1, 2], redo: [] });
  expect(undoStacks([own(1), { number: 2, undoes: 1, redoes: null }, own(3)])).toEqual({ undo: [3], redo: [] });
});

it('any edits, undos and redos in any order leave a rig that the stacks explain', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom('edit', 'undo', 'redo'), { maxLength: 40 }), (ways) => {
      let rig = testRig([{}]);
      const steps: HistoryStep[] = [];
      const edits = new Map<number, { edit: RigEdit; inverse: RigEdit }>();
      const states = [rig];
      let place = 0;
      ways.forEach((way, i) => {
        const number = i + 1;
        const { undo, redo } = undoStacks(steps);
        const at = way === 'undo' ? undo.at(-1) : redo.at(-1);
        if (way === 'edit') {
          const edit: RigEdit = { kind: 'setRig', set: { tempoBpm: 100 + number } };
          const applied = applyEdit(rig, edit);
          if (!applied.ok) throw new Error(applied.message);
          rig = applied.document;
          edits.set(number, { edit, inverse: applied.inverse });
          steps.push(own(number));
          states.splice(++place, states.length, rig);
        } else if (at !== undefined) {
          const applied = applyEdit(rig, way === 'undo' ? edits.get(at)!.inverse : edits.get(at)!.edit);
          if (!applied.ok) throw new Error(applied.message);
          rig = applied.document;
          steps.push({ number, undoes: way === 'undo' ? at : null, redoes: way === 'redo' ? at : null });
          place += way === 'undo' ? -1 : 1;
        }
        expect(rig).toEqual(states[place]);
      });
    }),
  );
});

it.each<[RigEdit, string, string | null]>([
  [{ kind: 'setMapping', mapping: 'm0', set: { on: false } }, 'Mapping 0: on or off', 'mapping m0 on'],
  [{ kind: 'setSignal', signal: 'fog', set: { unit: 'mm', range: [0, 9] } }, 'Fog: unit, range', 'signal fog range unit'],
  [{ kind: 'setInput', input: 'gone', set: { name: 'x' } }, 'gone: name', 'input gone name'],
  // No name of a field that only the code knows.
  [{ kind: 'setInput', input: 'deck', set: { taking: null, followsClock: true } }, 'Deck: mouse or touchpad, taken over, clock sets tempo', 'input deck followsClock taking'],
  [{ kind: 'setRig', set: { tempoBpm: 90 } }, 'the rig: tempo', 'rig tempoBpm'],
  [{ kind: 'change', changes: [{ list: 'mappings', id: 'm0', to: null }] }, 'mapping m0 removed', null],
  [{ kind: 'change', changes: [{ list: 'signals', id: 'a', to: null }, { list: 'signals', id: 'b', to: null }, { list: 'inputs', id: 'c', to: null }] }, '2 signals, 1 input', null],
])('%j in words and as a step', (edit, words, target) => {
  expect(editInWords(edit, testRig([{}]))).toBe(words);
  expect(editTarget(edit)).toBe(target);
});
