import type { Drawing } from './drawing';

/** A picture that asks to be drawn when what it shows moved. */
export interface LivePicture {
  draw(drawing: Drawing): void;
  remove(): void;
}
