import { TakenPointer, type Said } from '../../../core/gesture/takenPointer';
import { BeforeFrame } from '../../beforeFrame';
import { isTyping } from '../isTyping';
import { Happenings } from '../slots';
import type { PointerTaking } from '../../../core/inputs/kinds/computer';

/** A line of a wheel that counts in lines, in CSS pixels: common practice of browsers. */
const WHEEL_LINE_PX = 16;

/**
 * Takes the computer's mouse or touchpad over by pointer lock, until Escape or for as long as a key is held: from then on
 * its way moves values, and the arrow on the screen is gone. What had the focus has it again afterwards.
 */
export class PointerTaker {
  /** The pointer while it is taken over. */
  pointer: TakenPointer | null = null;
  /** How it plays; null where no input of the rig stands for it. */
  taking: PointerTaking | null = null;
  /** Whether a key that is held took it. */
  byKey = false;
  private wanted = false;
  private focused: HTMLElement | null = null;
  /** How far it went since the last frame, as was heard ahead of it. */
  private ahead = { xPx: 0, yPx: 0 };
  private readonly before = new BeforeFrame();
  private readonly listeners = new Happenings<[problem?: string]>();

  constructor(
    private readonly known: (key: string) => number | undefined,
    private readonly say: (said: readonly Said[], timeStamp: number) => void,
  ) {}

  /** It was taken or given back. */
  onChange(listener: () => void): () => void {
    return this.listeners.listen('change', listener);
  }

  /** While it is taken something of it moved. */
  onMove(listener: () => void): () => void {
    return this.listeners.listen('move', listener);
  }

  /** The browser did not give it. */
  onProblem(listener: (problem?: string) => void): () => void {
    return this.listeners.listen('problem', listener);
  }

  start(): void {
    document.addEventListener('pointerlockchange', this.changed);
    document.addEventListener('pointerlockerror', this.failed);
    addEventListener('keydown', this.keyDown, true);
    addEventListener('keyup', this.keyUp, true);
  }

  stop(): void {
    this.giveBack();
    this.ended();
    document.removeEventListener('pointerlockchange', this.changed);
    document.removeEventListener('pointerlockerror', this.failed);
    removeEventListener('keydown', this.keyDown, true);
    removeEventListener('keyup', this.keyUp, true);
  }

  /** A level of it is there now, whoever moved it. */
  hears(key: string, value: number): void {
    if (!this.pointer) return;
    this.pointer.heard(key, value);
    this.listeners.tell('move');
  }

  async take(byKey = false): Promise<void> {
    if (!this.taking || this.wanted || this.pointer) return;
    this.wanted = true;
    this.byKey = byKey;
    try {
      // How it went is told by events; browsers that promise it as well say why not.
      await document.body.requestPointerLock();
    } catch (error) {
      this.failed(error as Error);
    }
  }

  giveBack(): void {
    this.wanted = false;
    if (document.pointerLockElement === document.body) document.exitPointerLock();
  }

  private readonly changed = (): void => {
    if (document.pointerLockElement !== document.body) return this.ended();
    if (this.pointer) return;
    // Let go of before the browser gave it.
    if (!this.taking || !this.wanted) return document.exitPointerLock();
    this.pointer = new TakenPointer(this.taking, this.known);
    this.ahead = { xPx: 0, yPx: 0 };
    // Keys that are played are not to press what has the focus.
    this.focused = document.activeElement instanceof HTMLElement ? document.activeElement : null;
    this.focused?.blur();
    for (const [kind, listener] of this.heard) addEventListener(kind, listener as EventListener, { capture: true, passive: false });
    this.listeners.tell('change');
  };

  private readonly failed = (why: Error | Event): void => {
    // Said once, though the event and the promise both tell it.
    if (!this.wanted) return;
    this.wanted = false;
    this.listeners.tell('problem', takingInWords(why));
  };

  private ended(): void {
    this.wanted = false;
    const { pointer } = this;
    if (!pointer) return;
    this.pointer = null;
    for (const [kind, listener] of this.heard) removeEventListener(kind, listener as EventListener, { capture: true });
    this.say(pointer.end(), performance.now());
    if (this.focused?.isConnected) this.focused.focus({ preventScroll: true });
    this.focused = null;
    this.listeners.tell('change');
  }

  private readonly heard: [string, (event: MouseEvent) => void][] = [
    // Where the browser says it as soon as it moves (`play/useMoves`), what it says with the frame is the same way again.
    ['pointerrawupdate', (event) => this.hear(event, (pointer) => this.goAhead(pointer, event))],
    ['mousemove', (event) => this.hear(event, (pointer) => this.catchUp(pointer, event))],
    ['mousedown', (event) => this.hear(event, (pointer) => pointer.press(event.button))],
    ['mouseup', (event) => this.hear(event, (pointer) => pointer.release(event.button))],
    ['wheel', (event) => this.hear(event, (pointer) => pointer.wheel(wheelPx(event as WheelEvent)))],
    ...['click', 'auxclick', 'contextmenu', 'pointermove', 'pointerdown', 'pointerup'].map((kind): [string, (event: MouseEvent) => void] => [kind, (event) => this.hear(event, () => [])]),
  ];

  private goAhead(pointer: TakenPointer, event: MouseEvent): Said[] {
    // What is not heard now is missing of the frame's.
    if (!this.before.hears(event as PointerEvent)) return [];
    const { movementX, movementY } = event;
    this.ahead.xPx += movementX;
    this.ahead.yPx += movementY;
    return pointer.move(movementX, movementY);
  }

  private catchUp(pointer: TakenPointer, { movementX, movementY }: MouseEvent): Said[] {
    const [xPx, yPx] = [movementX - this.ahead.xPx, movementY - this.ahead.yPx];
    this.ahead = { xPx: 0, yPx: 0 };
    return xPx === 0 && yPx === 0 ? [] : pointer.move(xPx, yPx);
  }

  private hear(event: MouseEvent, by: (pointer: TakenPointer) => Said[]): void {
    if (!this.pointer) return;
    // Mouse events come only of pointer events that nobody cancelled.
    if (event.cancelable && !event.type.startsWith('pointer')) event.preventDefault();
    event.stopImmediatePropagation();
    const said = by(this.pointer);
    if (said.length > 0) this.say(said, event.timeStamp);
    if (event.type !== 'pointerrawupdate') this.listeners.tell('move');
  }

  private readonly keyDown = (event: KeyboardEvent): void => {
    if (this.pointer && event.key === 'Escape') {
      event.stopImmediatePropagation();
      event.preventDefault();
      return this.giveBack();
    }
    if (event.code !== this.taking?.key || isTyping(event.target)) return;
    event.preventDefault();
    if (!event.repeat) void this.take(true);
  };

  private readonly keyUp = (event: KeyboardEvent): void => {
    if (this.byKey && event.code === this.taking?.key) this.giveBack();
  };
}

function wheelPx({ deltaY, deltaMode }: WheelEvent): number {
  if (deltaMode === WheelEvent.DOM_DELTA_LINE) return deltaY * WHEEL_LINE_PX;
  return deltaMode === WheelEvent.DOM_DELTA_PAGE ? deltaY * innerHeight : deltaY;
}

function takingInWords(why: Error | Event): string {
  if (why instanceof Error && why.name === 'NotSupportedError') return 'This browser cannot give the pointer to a page: use another on this computer.';
  return 'The browser did not give the pointer: click on the page and try again a moment later.';
}
