import { KEEP } from '../../core/midi/keep';
import { PortQueue } from '../../core/midi/portQueue';
import { hubTimeMs } from '../time';
import type { Outgoing, OutgoingKind } from './outgoing';
import type { OutputSink } from './sink';

/** Puts a queue before a sink that takes only so many bytes a second. */
export class SlowPort implements OutputSink {
  readonly takes: OutgoingKind;
  readonly mayComeBack: boolean;
  private readonly queue: PortQueue;
  private timer: NodeJS.Timeout | null = null;
  /** Of what waits: that it is one output's, of one kind; who caused it is not asked any more. */
  private last: Outgoing | null = null;

  constructor(
    private readonly port: OutputSink,
    bytesPerS: number,
  ) {
    this.queue = new PortQueue(bytesPerS);
    this.takes = port.takes;
    this.mayComeBack = port.mayComeBack;
  }

  send(message: Outgoing): void {
    this.last ??= { ...message };
    this.queue.push(message.bytes.slice(), message.address);
    this.drain(hubTimeMs());
  }

  heard() {
    return this.port.heard?.() ?? [];
  }

  hush(): void {
    this.queue.hush();
  }

  /** What still waits is written all the same: the last of it may be the ends of notes. */
  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.write(Infinity);
    this.port.close();
  }

  private drain(nowMs: number): void {
    this.write(nowMs);
    const { nextMs } = this.queue;
    if (nextMs === null || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      this.drain(hubTimeMs());
    }, Math.max(0, Math.ceil(nextMs - nowMs)));
  }

  private write(untilMs: number): void {
    const atMs = Number.isFinite(untilMs) ? untilMs : hubTimeMs();
    for (let bytes = this.queue.take(untilMs); bytes; bytes = this.queue.take(untilMs)) this.port.send({ ...this.last!, bytes, atMs, address: KEEP, held: undefined });
  }
}
