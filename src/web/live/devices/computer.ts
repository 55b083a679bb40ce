import type { SourceReport } from '../../../core/rig/device';
import { isTyping } from '../isTyping';
import type { DeviceLine } from './deviceLine';

const DEVICE = 'computer';

/** Places on the keyboard by the codes of the W3C UI Events specification, so that the layout of the letters does not matter. */
const ROWS: Record<string, readonly string[]> = {
  'Number row': ['Digit1', 'Digit2', 'Digit3', 'Digit4', 'Digit5', 'Digit6', 'Digit7', 'Digit8', 'Digit9', 'Digit0'],
  'Upper row': ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP'],
  'Middle row': ['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK', 'KeyL'],
  'Lower row': ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM'],
  Arrows: ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'],
};
const CODES = new Set(Object.values(ROWS).flat());

const pointerSource = (key: string, name: string, range: [number, number]): SourceReport => ({ key, name, kind: 'continuous', unit: 'unit', range, rest: 0.5, group: 'Pointer' });

const SOURCES: SourceReport[] = [
  { ...pointerSource('pointer x', 'Pointer across', [0, 1]), pair: 'pointer y' },
  { ...pointerSource('pointer y', 'Pointer up', [0, 1]), pair: 'pointer x' },
  ...Object.entries(ROWS).flatMap(([group, codes]) =>
    codes.map((code): SourceReport => ({ key: `key ${code}`, name: code.replace(/^Key|^Digit/, '').replace('Arrow', 'Arrow '), kind: 'gate', unit: 'unit', range: [0, 1], group })),
  ),
];

/** The keyboard and the pointer of this computer, as an input; keys that are typed into a field stay with the field. */
export class ComputerReader {
  private readonly held = new Set<string>();

  constructor(private readonly line: DeviceLine) {}

  start(): void {
    this.line.add(DEVICE, { kind: 'computer', report: 'keyboard and pointer', name: 'Keyboard and pointer' }, SOURCES);
    addEventListener('keydown', this.down);
    addEventListener('keyup', this.up);
    addEventListener('blur', this.letGo);
    addEventListener('pointermove', this.moved);
  }

  stop(): void {
    removeEventListener('keydown', this.down);
    removeEventListener('keyup', this.up);
    removeEventListener('blur', this.letGo);
    removeEventListener('pointermove', this.moved);
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

  private readonly moved = (event: PointerEvent): void => {
    this.send([['pointer x', event.clientX / Math.max(1, innerWidth - 1)], ['pointer y', 1 - event.clientY / Math.max(1, innerHeight - 1)]], event.timeStamp);
  };

  private send(values: readonly [key: string, value: number][], timeStamp: number): void {
    this.line.send(DEVICE, values.map(([key, value]) => ({ key, value })), performance.timeOrigin + timeStamp);
  }
}
