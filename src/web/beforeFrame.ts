/**
 * So far apart, in ms, a pointer is heard between two frames. Ten fingers that are also heard with each of 120 frames a second stay below
 * what a joined device may say (`LIMITS.framesPerSecond`), however fast its glass or mouse is: what is beyond that is left out, and it may be a lift.
 */
const APART_MS = 6;
/** Each touch is a pointer of another number; so many are remembered. */
const POINTERS = 32;

type Said = Pick<PointerEvent, 'pointerId' | 'timeStamp'>;

/** Which of the moves that a browser says before the frame (`pointerrawupdate`) are heard; the others are heard with the frame. */
export class BeforeFrame {
  private readonly heardMs = new Map<number, number>();
  /** The pointers of which the frame has nothing new to say. */
  private readonly ahead = new Set<number>();

  /** Whether this one, said before the frame, is to be heard. */
  hears({ pointerId, timeStamp }: Said): boolean {
    const isHeard = timeStamp - (this.heardMs.get(pointerId) ?? -Infinity) >= APART_MS;
    if (!isHeard) this.ahead.delete(pointerId);
    else {
      if (this.heardMs.size >= POINTERS) this.heardMs.clear();
      this.heardMs.set(pointerId, timeStamp);
      this.ahead.add(pointerId);
    }
    return isHeard;
  }

  /** Whether what the frame says of a pointer was heard before it. */
  wasHeard({ pointerId }: Pick<Said, 'pointerId'>): boolean {
    return this.ahead.delete(pointerId);
  }
}
