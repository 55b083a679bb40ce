import { BY_SHOWN, KEEP } from '../core/engine/sink';
import { STATUS } from '../core/midi/message';
import type { RigDocument, RigMapping, ShownOn } from '../core/rig/document';
import type { OutputDesk } from './outputs/desk';

/** Levels that are shown on controllers: rings, lamps, motors. Each is sent where it is another than it was there. */
export class ShownOnControllers {
  private byMapping: (ShownOn | undefined)[] = [];
  /** By address of a controller: what it shows. */
  private readonly shows = new Map<string, number>();

  constructor(private readonly desk: Pick<OutputDesk, 'midi'>) {}

  /** The mappings of the plan are these now, in this order. */
  load(mappings: readonly RigMapping[], { outputs }: Pick<RigDocument, 'outputs'>): void {
    this.byMapping = mappings.map(({ shownOn }) => shownOn);
    const known = new Set(outputs.map(({ id }) => id));
    for (const key of this.shows.keys()) if (!known.has(key.split(' ')[0]!)) this.shows.delete(key);
  }

  /** All of an output again: it is back, and what it controls may have forgotten. */
  again(output: string, levels: ArrayLike<number>): void {
    for (const key of [...this.shows.keys()]) if (key.startsWith(`${output} `)) this.shows.delete(key);
    this.byMapping.forEach((shownOn, m) => shownOn?.output === output && this.moved(m, levels[m]!));
  }

  /** @param m index in the plan */
  moved(m: number, level: number): void {
    const shownOn = this.byMapping[m];
    if (!shownOn || Number.isNaN(level)) return;
    const { output, as, channel, number = 0, from, to } = shownOn;
    const value = Math.round(from + Math.min(1, Math.max(0, level)) * (to - from));
    const key = `${output} ${as} ${channel} ${number}`;
    if (this.shows.get(key) === value) return;
    this.shows.set(key, value);
    const status = { controller: STATUS.controlChange, note: STATUS.noteOn, bend: STATUS.pitchBend }[as] | (channel - 1);
    this.desk.midi(output, BY_SHOWN, as === 'bend' ? Uint8Array.of(status, value & 0x7f, value >> 7) : Uint8Array.of(status, number, value), 3, KEEP);
  }
}
