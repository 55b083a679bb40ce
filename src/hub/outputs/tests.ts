import { BY_TEST, KEEP } from '../../core/engine/sink';
import { STATUS } from '../../core/midi/message';
import { hubTimeMs } from '../time';
import type { OutputDesk } from './desk';

/** C major from middle C up: eight notes, a quarter of a second each. */
const SCALE = [60, 62, 64, 65, 67, 69, 71, 72];
const NOTE_MS = 250;
const SOUNDS_MS = 220;
const VELOCITY = 90;
const RELEASE = 64;
/** The modulation wheel goes up and down meanwhile, and back to where it was. */
const MODULATION = 1;
const STEP_MS = 40;

interface Running {
  timer: NodeJS.Timeout;
  end(): void;
}

/** Plays a scale and a controller's sweep on an output, so that it is heard whether anybody listens there. */
export class OutputTests {
  private readonly running = new Map<string, Running>();

  constructor(private readonly desk: OutputDesk) {}

  /** @param channel 1 to 16 */
  begin(output: string, channel: number): void {
    this.end(output);
    const send = (status: number, data1: number, data2: number) => {
      this.desk.causedMs = 0;
      this.desk.atMs = hubTimeMs();
      this.desk.midi(output, BY_TEST, Uint8Array.of(status | (channel - 1), data1, data2), 3, KEEP);
    };
    const before = this.desk.heldController(output, channel, MODULATION) ?? 0;
    let beganMs = hubTimeMs();
    let struck = -1;
    let sounds = false;
    const release = () => {
      if (sounds) send(STATUS.noteOff, SCALE[struck]!, RELEASE);
      sounds = false;
    };
    const end = () => {
      release();
      send(STATUS.controlChange, MODULATION, before);
    };
    const step = () => {
      // After a stall it goes on where it was: a note that is missing would be looked for at the receiver.
      const lateMs = hubTimeMs() - beganMs - (struck + 1) * NOTE_MS;
      if (lateMs > STEP_MS) beganMs += lateMs;
      const passedMs = hubTimeMs() - beganMs;
      const note = Math.floor(passedMs / NOTE_MS);
      if (note > struck || passedMs - struck * NOTE_MS > SOUNDS_MS) release();
      if (note >= SCALE.length) return this.end(output);
      if (note > struck) {
        struck = note;
        sounds = true;
        send(STATUS.noteOn, SCALE[note]!, VELOCITY);
      }
      send(STATUS.controlChange, MODULATION, Math.round(127 * Math.sin((Math.PI * passedMs) / (NOTE_MS * SCALE.length))));
    };
    this.running.set(output, { timer: setInterval(step, STEP_MS), end });
    step();
  }

  end(output: string): void {
    const running = this.running.get(output);
    if (!running) return;
    clearInterval(running.timer);
    this.running.delete(output);
    running.end();
  }

  endAll(): void {
    for (const output of [...this.running.keys()]) this.end(output);
  }
}
