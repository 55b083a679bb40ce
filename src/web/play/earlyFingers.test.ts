import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { EARLY_FINGERS_SCRIPT, heardAlready, takeEarlyFingers } from './earlyFingers';

/** A pointer event as far as the script and the page use it. */
class Pointer extends Event {
  readonly pointerId: number = 0;
  readonly pointerType: string = 'touch';
  readonly clientX: number = 0;
  readonly clientY: number = 0;
  readonly buttons: number = 1;
  constructor(type: string, init: Partial<Pointer>) {
    super(type);
    const { pointerId, pointerType, clientX, clientY, buttons } = init;
    Object.assign(this, Object.fromEntries(Object.entries({ pointerId, pointerType, clientX, clientY, buttons }).filter(([, value]) => value !== undefined)));
  }
}

const page = new EventTarget();
let heard: string[] = [];
const point = (type: string, pointerId: number, more: Partial<Pointer> = {}) => page.dispatchEvent(new Pointer(type, { pointerId, ...more }));

beforeEach(() => {
  heard = [];
  vi.stubGlobal('window', page);
  vi.stubGlobal('PointerEvent', Pointer);
  vi.stubGlobal('document', { elementFromPoint: (x: number, y: number) => ({ dispatchEvent: ({ type, pointerId, clientX, clientY }: Pointer) => heard.push(`${type} ${pointerId} at ${clientX},${clientY} on ${x < 100 ? 'left' : 'right'},${y}`) }) });
  (new Function(EARLY_FINGERS_SCRIPT) as () => void)();
});

afterEach(() => vi.unstubAllGlobals());

test('what is down comes down where it is now, once', () => {
  point('pointerdown', 1, { clientX: 10, clientY: 20 });
  point('pointermove', 1, { clientX: 150, clientY: 30 });
  point('pointerdown', 2, { clientX: 50, clientY: 60 });
  takeEarlyFingers();
  takeEarlyFingers();
  expect(heard).toEqual(['pointerdown 1 at 150,30 on right,30', 'pointerdown 2 at 50,60 on left,60']);
});

test.each(['pointerup', 'pointercancel'])('what ended by %s meanwhile is left out, and what only moved was never down', (end) => {
  point('pointerdown', 1);
  point(end, 1);
  point('pointermove', 2);
  takeEarlyFingers();
  expect(heard).toEqual([]);
});

test('what the page heard by itself is not said again, also where it moves; what came before is, where it is now', () => {
  point('pointerdown', 1, { clientX: 10, clientY: 20 });
  point('pointerdown', 2);
  heardAlready(2);
  point('pointermove', 2);
  point('pointermove', 1, { clientX: 11, clientY: 21 });
  takeEarlyFingers();
  expect(heard).toEqual(['pointerdown 1 at 11,21 on left,21']);
});

test('of a mouse only the first button counts', () => {
  point('pointerdown', 1, { pointerType: 'mouse', buttons: 2 });
  point('pointerdown', 2, { pointerType: 'mouse', buttons: 3 });
  takeEarlyFingers();
  expect(heard).toEqual(['pointerdown 2 at 0,0 on left,0']);
});

test('a page without the script has no early fingers, and later ones are not noted any more', () => {
  takeEarlyFingers();
  point('pointerdown', 1);
  heardAlready(1);
  takeEarlyFingers();
  expect(heard).toEqual([]);
});
