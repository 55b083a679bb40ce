/**
 * Draws at once, or, where something comes several times in a frame, with the frame: what is asked for meanwhile is kept, and the last of it
 * drawn by `catchUp`.
 */
export class FramePicture<Shown extends unknown[]> {
  private waits = false;
  private kept: Shown | null = null;

  constructor(private readonly draw: (...shown: Shown) => void) {}

  readonly show = (...shown: Shown): void => {
    this.kept = this.waits ? shown : null;
    if (!this.waits) this.draw(...shown);
  };

  /** What this asks to be drawn can wait for the frame. */
  later(work: () => void): void {
    this.waits = true;
    try {
      work();
    } finally {
      this.waits = false;
    }
  }

  catchUp(): void {
    if (this.kept) this.show(...this.kept);
  }
}
