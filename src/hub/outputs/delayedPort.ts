import { withoutBeginnings } from '../../core/midi/withoutBeginnings';
import { hubTimeMs } from '../time';
import type { Outgoing, OutgoingKind } from './outgoing';
import type { OutputSink } from './sink';

/** Lets everything that leaves by a sink leave so much later, in its order. */
export class DelayedPort implements OutputSink {
  readonly takes: OutgoingKind;
  readonly mayComeBack: boolean;
  private waiting: { bytes: Uint8Array; message: Outgoing; dueMs: number }[] = [];
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly port: OutputSink,
    private readonly delayMs: number,
  ) {
    this.takes = port.takes;
    this.mayComeBack = port.mayComeBack;
  }

  send(message: Outgoing): void {
    const dueMs = hubTimeMs() + this.delayMs;
    const bytes = message.bytes.slice();
    this.waiting.push({ bytes, message: { ...message, bytes, atMs: message.atMs + this.delayMs }, dueMs });
    this.timer ??= setTimeout(this.write, this.delayMs);
  }

  heard() {
    return this.port.heard?.() ?? [];
  }

  /** Voices that leave as OSC are ended after they have begun. */
  hush(): void {
    this.port.hush?.();
    if (this.takes === 'midi') this.waiting = withoutBeginnings(this.waiting);
  }

  /** What still waits is written all the same: the last of it may be the ends of notes. */
  close(): void {
    if (this.timer) clearTimeout(this.timer);
    for (const { message } of this.waiting.splice(0)) this.port.send(message);
    this.port.close();
  }

  private readonly write = (): void => {
    const nowMs = hubTimeMs();
    while (this.waiting.length > 0 && this.waiting[0]!.dueMs <= nowMs) this.port.send(this.waiting.shift()!.message);
    this.timer = this.waiting.length === 0 ? null : setTimeout(this.write, Math.max(1, this.waiting[0]!.dueMs - nowMs));
  };
}
