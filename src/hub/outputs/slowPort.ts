import { KEEP } from '../../core/midi/keep';
import { PortQueue } from '../../core/midi/portQueue';
import { hubTimeMs } from '../time';
import type { OutputSink } from './sink';

/** Puts a queue before a sink that takes only so many bytes a second. */
export class SlowPort implements OutputSink {
  private readonly queue: PortQueue;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly port: OutputSink,
    bytesPerS: number,
  ) {
    this.queue = new PortQueue(bytesPerS);
  }

  send(bytes: Uint8Array, nowMs: number, address: number): void {
    this.queue.push(bytes, address);
    this.drain(nowMs);
  }

  get mayComeBack() {
    return this.port.mayComeBack;
  }

  heard() {
    return this.port.heard?.() ?? new Map();
  }

  /** What still waits is written all the same: the last of it may be the ends of notes. */
  close(): void {
    if (this.timer) clearTimeout(this.timer);
    for (let bytes = this.queue.take(Infinity); bytes; bytes = this.queue.take(Infinity)) this.port.send(bytes, hubTimeMs(), KEEP);
    this.port.close();
  }

  private drain(nowMs: number): void {
    for (let bytes = this.queue.take(nowMs); bytes; bytes = this.queue.take(nowMs)) this.port.send(bytes, nowMs, KEEP);
    const { nextMs } = this.queue;
    if (nextMs === null || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      this.drain(hubTimeMs());
    }, Math.max(0, Math.ceil(nextMs - nowMs)));
  }
}
