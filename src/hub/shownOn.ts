import { RELEASE_VELOCITY } from '../core/engine/noteBook';
import { BY_SHOWN, KEEP } from '../core/engine/sink';
import { STATUS } from '../core/midi/message';
import type { RigDocument, RigMapping, ShownOn } from '../core/rig/document';
import type { OutputDesk, WayState } from './outputs/desk';

/** Levels that are shown on controllers: rings, lamps, motors. Each is sent where it is another than it was there. */
export class ShownOnControllers {
  private byMapping: (ShownOn | undefined)[] = [];
  /** Lamps that are lit by a note, by address. One that stood for ever would be a note that hangs, were it an instrument after all. */
  private readonly lit = new Map<string, ShownOn>();
  /** By address of a controller: what it shows. */
  private readonly shows = new Map<string, number>();
  private readonly away = new Set<string>();

  constructor(private readonly desk: Pick<OutputDesk, 'midi'>) {}

  /** The mappings of the plan are these now, in this order. */
  load(mappings: readonly RigMapping[], { outputs }: Pick<RigDocument, 'outputs'>): void {
    this.byMapping = mappings.map(({ shownOn }) => shownOn);
    const wanted = new Set(this.byMapping.flatMap((shownOn) => (shownOn ? [keyOf(shownOn)] : [])));
    for (const key of this.lit.keys()) if (!wanted.has(key)) this.putOut(key);
    const known = new Set(outputs.map(({ id }) => id));
    for (const key of this.shows.keys()) if (!known.has(key.split(' ')[0]!)) this.shows.delete(key);
  }

  /** Every lamp that is lit by a note goes out, until its level is another. */
  allOut(): void {
    for (const key of [...this.lit.keys()]) this.putOut(key);
  }

  private putOut(key: string): void {
    const { output, channel, number = 0 } = this.lit.get(key)!;
    this.lit.delete(key);
    this.desk.midi(output, BY_SHOWN, Uint8Array.of(STATUS.noteOff | (channel - 1), number, RELEASE_VELOCITY), 3, KEEP);
  }

  /** An output that is back is shown all of its levels. @param levels by mapping of the plan */
  follow(outputs: readonly Pick<WayState, 'id' | 'away'>[], levels: ArrayLike<number>): void {
    for (const { id, away } of outputs) {
      if (away !== null) this.away.add(id);
      else if (this.away.delete(id)) this.again(id, levels);
    }
  }

  /** All of an output again: what it controls may have forgotten. */
  private again(output: string, levels: ArrayLike<number>): void {
    for (const key of [...this.shows.keys()]) if (key.startsWith(`${output} `)) this.shows.delete(key);
    this.byMapping.forEach((shownOn, m) => shownOn?.output === output && this.moved(m, levels[m]!));
  }

  /** @param m index in the plan */
  moved(m: number, level: number): void {
    const shownOn = this.byMapping[m];
    if (!shownOn || Number.isNaN(level)) return;
    const { output, as, channel, number = 0, from, to } = shownOn;
    const value = Math.round(from + Math.min(1, Math.max(0, level)) * (to - from));
    const key = keyOf(shownOn);
    if (this.shows.get(key) === value) return;
    this.shows.set(key, value);
    if (as === 'note') {
      if (value > 0) this.lit.set(key, shownOn);
      else this.lit.delete(key);
    }
    const status = { controller: STATUS.controlChange, note: STATUS.noteOn, bend: STATUS.pitchBend }[as] | (channel - 1);
    this.desk.midi(output, BY_SHOWN, as === 'bend' ? Uint8Array.of(status, value & 0x7f, value >> 7) : Uint8Array.of(status, number, value), 3, KEEP);
  }
}

const keyOf = ({ output, as, channel, number = 0 }: ShownOn) => `${output} ${as} ${channel} ${number}`;
