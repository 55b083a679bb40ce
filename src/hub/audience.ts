import type { Fact, Heard } from '../protocol/frames';
import type { Watcher } from './watcher';

/** Everybody who is shown what happens. Each watcher thins for itself; here it is only said that something moved. */
export class Audience {
  private readonly everybody = new Set<Watcher>();
  /** The same as a list, and those of them that want every message or every raw number: asked for every sample. */
  private watchers: readonly Watcher[] = [];
  private monitors: readonly Watcher[] = [];
  private capturers: readonly Watcher[] = [];

  add(watcher: Watcher): void {
    this.everybody.add(watcher);
    this.changed();
  }

  remove(watcher: Watcher): void {
    this.everybody.delete(watcher);
    watcher.close();
    this.changed();
  }

  /** A watcher wants to see something else. */
  changed(): void {
    this.watchers = [...this.everybody];
    this.monitors = this.watchers.filter(({ monitor }) => monitor);
    this.capturers = this.watchers.filter(({ captures }) => captures);
  }

  /** Whether anybody wants every message. */
  get listens(): boolean {
    return this.monitors.length > 0;
  }

  fact(fact: Fact): void {
    for (const watcher of this.monitors) watcher.fact(fact);
  }

  /** A raw number arrived, before anything is made of it. */
  rawNumber(signal: number, timeMs: number, value: number): void {
    for (const watcher of this.capturers) watcher.rawNumber(signal, timeMs, value);
  }

  /** @param by who made it so, and knows */
  signalMoved(number: number, by: Watcher | null): void {
    const { watchers } = this;
    for (let i = 0; i < watchers.length; i++) if (watchers[i] !== by) watchers[i]!.signalChanged(number);
  }

  mappingMoved(number: number): void {
    const { watchers } = this;
    for (let i = 0; i < watchers.length; i++) watchers[i]!.mappingChanged(number);
  }

  voicesMoved(number: number): void {
    const { watchers } = this;
    for (let i = 0; i < watchers.length; i++) watchers[i]!.voicesChanged(number);
  }

  receiverHeard(output: number, heard: Readonly<Heard>): void {
    for (const watcher of this.watchers) watcher.receiverHeard(output, heard);
  }
}
