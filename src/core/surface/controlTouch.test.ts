import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ControlKind, ControlOf, RigControl, TouchBehaviour } from '../rig/document';
import { CONTROL_KINDS, plainControl, rolesOf } from './controlKinds';
import { begin, end, gateOf, glides, move, cellAt } from './controlTouch';
import { keyFrames } from './cells';

const FRAME = { x: 100, y: 100, width: 436, height: 236 };
const make = <K extends ControlKind>(kind: K, set: object = {}) => ({ ...plainControl(kind, 'c', '', FRAME), ...set }) as ControlOf<K>;
const finger = (x: number, y: number, size = 0) => ({ at: { x, y }, size });
const rounded = (values: Record<string, number>) => Object.fromEntries(Object.entries(values).map(([role, value]) => [role, Number(value.toFixed(3))]));

describe('which cell a finger is on', () => {
  it('lanes, pads row by row, the halves of a stepper, the next free point of a pad', () => {
    expect([cellAt(make('faders', { count: 4 }), { x: 101, y: 200 }, []), cellAt(make('faders', { count: 4 }), { x: 535, y: 200 }, [])]).toEqual([0, 3]);
    expect(cellAt(make('pads', { columns: 2, rows: 3 }), { x: 400, y: 300 }, [])).toBe(5);
    expect([cellAt(make('stepper'), { x: 101, y: 110 }, []), cellAt(make('stepper'), { x: 500, y: 110 }, [])]).toEqual([0, 1]);
    const pad = make('xy', { fingers: 2 });
    expect([cellAt(pad, { x: 300, y: 200 }, []), cellAt(pad, { x: 300, y: 200 }, [0]), cellAt(pad, { x: 300, y: 200 }, [0, 1])]).toEqual([0, 1, null]);
    // On a pad of one point a second finger is on the first one's, as on a fader: it makes that fine.
    expect(cellAt(make('xy'), { x: 300, y: 200 }, [0])).toBe(0);
    expect(cellAt(make('tracks'), { x: 0, y: 0 }, [])).toBeNull();
  });
  it('black keys lie on white ones, which are as wide as each other and fill the board', () => {
    const keys = make('keys', { low: 48, high: 72 });
    const whites = keyFrames(keys).filter(({ black }) => !black);
    expect(whites).toHaveLength(15);
    expect(whites.at(-1)!.frame.x + whites.at(-1)!.frame.width).toBeCloseTo(FRAME.x + FRAME.width);
    const cSharp = keyFrames(keys)[1]!;
    const middle = cSharp.frame.x + cSharp.frame.width / 2;
    expect([cellAt(keys, { x: middle, y: 110 }, []), cellAt(keys, { x: middle - 1, y: 330 }, []), cellAt(keys, { x: middle + 1, y: 330 }, [])]).toEqual([1, 0, 2]);
    expect(keyFrames(make('keys', { low: 60, high: 71, scale: [0, 2, 4] })).map(({ note }) => note)).toEqual([60, 62, 64]);
  });
});

describe('how hard', () => {
  const pads = (strength: string) => make('pads', { columns: 1, rows: 1, strength });
  it('always fully; by the place; by the size of the touch, fully where the screen does not say', () => {
    expect(begin(pads('fixed'), 0, finger(300, 101), {}).values).toEqual({ pad1: 1 });
    expect(begin(pads('position'), 0, finger(300, 159), {}).values).toEqual({ pad1: 0.25 });
    expect(begin(pads('position'), 0, finger(300, 100), {}).values.pad1).toBeGreaterThan(0);
    expect(begin(pads('size'), 0, finger(300, 200, 35), {}).values).toEqual({ pad1: 0.5 });
    expect(begin(pads('size'), 0, finger(300, 200, 200), {}).values).toEqual({ pad1: 1 });
    expect(begin(pads('size'), 0, finger(300, 200), {}).values).toEqual({ pad1: 1 });
  });
});

describe('what a control says', () => {
  it('a strip that bends goes from the middle by the way of the finger; one that follows is where the finger is', () => {
    const bend = make('strip', { mode: 'bend', frame: { ...FRAME, width: 50 } });
    const { touch, values } = begin(bend, 0, finger(120, 300), { value: 0.5 });
    expect(values).toEqual({ touch: 1, value: 0.5 });
    expect(rounded(move(bend, touch, finger(120, 250), values, false))).toEqual({ value: 0.75 });
    const { touch: again } = begin(bend, 0, finger(120, 300), { value: 0.5 });
    expect([move(bend, again, finger(120, 300), { value: 0.5 }, true), move(bend, again, finger(120, 220), { value: 0.5 }, true)].map(rounded)).toEqual([{ value: 0.5 }, { value: 0.55 }]);
    expect(begin({ ...bend, mode: 'position' }, 0, finger(120, 318), {}).values).toEqual({ touch: 1, value: 0 });
    expect(end(bend, 0)).toEqual({ touch: 0 });
  });
  it('an endless dial goes on past its top, both ways, and an eighth of that while fine', () => {
    const dial = make('dial', { endless: true });
    const { touch } = begin(dial, 0, finger(200, 200), { value: 0.9 });
    expect(rounded(move(dial, touch, finger(200, 156), { value: 0.9 }, false))).toEqual({ value: 0.1 });
    expect(rounded(move(dial, touch, finger(200, 200), { value: 0.1 }, false))).toEqual({ value: 0.9 });
    expect(rounded(move(dial, touch, finger(200, 156), { value: 0.9 }, true))).toEqual({ value: 0.925 });
  });
  it('a dial that jumps points at the finger, and is not taken from one end to the other beneath', () => {
    // On a frame that is wide its middle is 118 from the left and from the top.
    const dial = make('dial', { behaviour: { kind: 'jump', sensitivity: 1 } });
    const around = (deg: number) => finger(218 + 80 * Math.sin((deg * Math.PI) / 180), 218 - 80 * Math.cos((deg * Math.PI) / 180));
    const { touch, values } = begin(dial, 0, around(-90), { value: 0.9 });
    const at = (deg: number) => rounded(Object.assign(values, move(dial, touch, around(deg), values, false))).value;
    expect(rounded(values).value).toBe(0.167);
    expect([-135, -45, 0, 45, 90, 135, 170].map(at)).toEqual([0, 0.333, 0.5, 0.667, 0.833, 1, 1]);
    expect([-170, -135, -90, -10, 10, 0].map(at)).toEqual([1, 1, 1, 1, 0.537, 0.5]);
    const waits = make('dial', { behaviour: { kind: 'softTakeover', sensitivity: 1 } });
    const held = begin(waits, 0, around(-90), { value: 0.5 });
    expect(held.values).toEqual({ touch: 1 });
    expect([-45, 45, 0].map((deg) => rounded(move(waits, held.touch, around(deg), { value: 0.5 }, false)))).toEqual([{}, { value: 0.667 }, { value: 0.5 }]);
    // On one that is not wide, in the middle of what is above its words.
    const upright = make('dial', { behaviour: { kind: 'jump', sensitivity: 1 }, frame: { x: 0, y: 0, width: 100, height: 200 } });
    expect(rounded(begin(upright, 0, finger(0, 50), {}).values)).toEqual({ touch: 1, value: 0.167 });
  });
  it('a toggle turns over, a choice is its place, a stepper stops at its ends', () => {
    expect([begin(make('toggle'), 0, finger(0, 0), { value: 0 }).values, begin(make('toggle'), 0, finger(0, 0), { value: 1 }).values]).toEqual([{ value: 1 }, { value: 0 }]);
    expect(begin(make('radio'), 3, finger(0, 0), {}).values).toEqual({ value: 1 });
    const stepper = make('stepper', { steps: 5 });
    expect([begin(stepper, 1, finger(0, 0), { value: 1 }).values, begin(stepper, 0, finger(0, 0), { value: 0.5 }).values]).toEqual([{ value: 1 }, { value: 0.25 }]);
  });
  it('whatever the kind, the place and the finger: only signals that it has, all within 0 and 1, and every gate that went on goes off', () => {
    const kinds = Object.keys(CONTROL_KINDS) as ControlKind[];
    const place = fc.record({ x: fc.double({ min: -500, max: 1500, noNaN: true }), y: fc.double({ min: -500, max: 1500, noNaN: true }) });
    const behaviours = fc.option(fc.record({ behaviour: fc.record({ kind: fc.constantFrom<TouchBehaviour['kind']>('jump', 'pickUp', 'softTakeover', 'relative'), sensitivity: fc.double({ min: 0.01, max: 100, noNaN: true }) }) }), { nil: {} });
    fc.assert(
      fc.property(fc.constantFrom(...kinds), behaviours, fc.array(place, { minLength: 1, maxLength: 6 }), fc.double({ min: 0, max: 300, noNaN: true }), fc.boolean(), (kind, behaviour, places, size, fine) => {
        const control: RigControl = make(kind, behaviour);
        const roles = rolesOf(control).map(({ role }) => role);
        const values: Record<string, number> = Object.fromEntries(roles.map((role) => [role, 0]));
        const cell = cellAt(control, places[0]!, []);
        if (cell === null || roles.length === 0) return;
        let { touch, values: said } = begin(control, cell, { at: places[0]!, size }, values);
        Object.assign(values, said);
        for (const at of places.slice(1)) {
          const next = glides(control) ? cellAt(control, at, []) : null;
          if (next !== null && next !== touch.cell) {
            Object.assign(values, end(control, touch.cell));
            ({ touch, values: said } = begin(control, next, { at, size }, values));
          } else said = move(control, touch, { at, size }, values, fine);
          Object.assign(values, said);
        }
        Object.assign(values, end(control, touch.cell));
        expect(Object.keys(values).sort()).toEqual([...roles].sort());
        for (const value of Object.values(values)) expect(value >= 0 && value <= 1).toBe(true);
        for (let each = 0; each < roles.length; each++) {
          const gate = gateOf(control, each);
          if (gate !== null && gate in values) expect(values[gate]).toBe(0);
        }
      }),
    );
  });
});
