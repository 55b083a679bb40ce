import { buttonKey, laneKey, POINTER_BUTTONS } from '../../../core/gesture/takenPointer';
import type { SourceReport } from '../../../core/inputs/feed';
import { BeforeFrame } from '../../beforeFrame';
import { isTyping } from '../isTyping';
import type { FeedLine } from './feedLine';
import { PointerTaker } from './pointerTaker';
import { MOST_LANES } from '../../../core/inputs/kinds/computer';
import type { RigInput } from '../../../core/inputs/kinds';

const DEVICE = 'computer';
const REPORT = 'keyboard and pointer';

/** Places on the keyboard by the codes of the W3C UI Events specification, so that the layout of the letters does not matter. */
const ROWS: Record<string, readonly string[]> = {
  'Number row': ['Digit1', 'Digit2', 'Digit3', 'Digit4', 'Digit5', 'Digit6', 'Digit7', 'Digit8', 'Digit9', 'Digit0'],
  'Upper row': ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP'],
  'Middle row': ['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK', 'KeyL'],
  'Lower row': ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM'],
  Arrows: ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'],
};
const CODES = new Set(Object.values(ROWS).flat());

const pointerSource = (key: string, name: string): SourceReport => ({ key, name, kind: 'continuous', unit: 'unit', range: [0, 1], rest: 0.5, group: 'Pointer' });
const TAKEN = 'Pointer, taken over';

const SOURCES: SourceReport[] = [
  { ...pointerSource('pointer x', 'Pointer across'), pair: 'pointer y' },
  { ...pointerSource('pointer y', 'Pointer up'), pair: 'pointer x' },
  ...Array.from({ length: MOST_LANES }, (_, lane): SourceReport => ({ key: laneKey(lane), name: `Lane ${lane + 1}`, kind: 'continuous', unit: 'unit', range: [0, 1], group: TAKEN })),
  { key: 'wheel', name: 'Wheel', kind: 'continuous', unit: 'unit', range: [0, 1], group: TAKEN },
  ...POINTER_BUTTONS.map((button): SourceReport => ({ key: buttonKey(button), name: `Button ${button}`, kind: 'gate', unit: 'unit', range: [0, 1], group: TAKEN })),
  ...Object.entries(ROWS).flatMap(([group, codes]) =>
    codes.map((code): SourceReport => ({ key: `key ${code}`, name: code.replace(/^Key|^Digit/, '').replace('Arrow', 'Arrow '), kind: 'gate', unit: 'unit', range: [0, 1], group })),
  ),
];

/** A browser may say where the pointer is as soon as it moves, and again with the frame (`play/useMoves`). */
const MOVES = ['pointerrawupdate', 'pointermove'] as const;

/** Whether an input of a rig stands for this computer. */
export const isThisComputer = (input: RigInput): input is Extract<RigInput, { kind: 'computer' }> => input.kind === 'computer' && input.device.report === REPORT;

/** The keyboard and the pointer of this computer, as an input; keys that are typed into a field stay with the field. */
export class ComputerReader {
  readonly taker: PointerTaker;
  private readonly held = new Set<string>();
  private readonly before = new BeforeFrame();

  /** @param known what a source said last, by its key */
  constructor(
    private readonly line: FeedLine,
    known: (key: string) => number | undefined,
  ) {
    this.taker = new PointerTaker(known, (said, timeStamp) => said.length > 0 && this.line.send(DEVICE, said, performance.timeOrigin + timeStamp));
  }

  start(): void {
    // First, so that it hears the pointer before anything else does.
    this.taker.start();
    this.line.add(DEVICE, { kind: 'computer', report: REPORT, name: 'Keyboard and pointer' }, SOURCES);
    addEventListener('keydown', this.down);
    addEventListener('keyup', this.up);
    addEventListener('blur', this.letGo);
    for (const kind of MOVES) addEventListener(kind, this.moved);
  }

  stop(): void {
    this.taker.stop();
    removeEventListener('keydown', this.down);
    removeEventListener('keyup', this.up);
    removeEventListener('blur', this.letGo);
    for (const kind of MOVES) removeEventListener(kind, this.moved);
    this.line.remove(DEVICE);
  }

  private readonly down = (event: KeyboardEvent): void => {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || !CODES.has(event.code) || isTyping(event.target)) return;
    this.held.add(event.code);
    this.send([[`key ${event.code}`, 1]], event.timeStamp);
  };

  private readonly up = (event: KeyboardEvent): void => {
    if (this.held.delete(event.code)) this.send([[`key ${event.code}`, 0]], event.timeStamp);
  };

  /** The window lost the keyboard: it will not hear the keys come up. */
  private readonly letGo = (): void => {
    for (const code of this.held) this.send([[`key ${code}`, 0]], performance.now());
    this.held.clear();
  };

  private readonly moved = (event: Event): void => {
    const pointer = event as PointerEvent;
    if (event.type === 'pointermove' ? this.before.wasHeard(pointer) : !this.before.hears(pointer)) return;
    this.send([['pointer x', pointer.clientX / Math.max(1, innerWidth - 1)], ['pointer y', 1 - pointer.clientY / Math.max(1, innerHeight - 1)]], event.timeStamp);
  };

  private send(values: readonly [key: string, value: number][], timeStamp: number): void {
    this.line.send(DEVICE, values.map(([key, value]) => ({ key, value })), performance.timeOrigin + timeStamp);
  }
}
