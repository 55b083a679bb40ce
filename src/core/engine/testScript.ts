import type { RigDocument, RigMapping } from '../rig/document';
import type { play } from './testPlay';
import { testRig } from './testRig';
import type { MessageSpec } from '../messages';

/** A controller of 7 bits over its whole range. */
export const cc = (controller = 20, channel = 1): MessageSpec => ({ kind: 'controlChange', channel, controller, range: [0, 127] });

/** A rig whose signals are these, with a range each. */
export function withSignals(signals: (Partial<RigDocument['signals'][number]> & { id: string })[], mappings: Partial<RigMapping>[]): RigDocument {
  const rig = testRig(mappings);
  rig.signals.push(...signals.map((more) => ({ name: more.id, input: 'deck', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], ...more })));
  return rig;
}

export type Player = ReturnType<typeof play>;

/** Plays `x 0:.15, y 10:.9`, with the ticks of the hub between where they are wanted. */
export function perform({ move, run }: Player, script: string, ticks = false): void {
  let lastMs = 0;
  for (const step of script.split(',')) {
    const [, signal, timeMs, value] = /^\s*(\S+) ([\d.]+):(-?[\d.]+)\s*$/.exec(step)!;
    if (ticks) run(Math.ceil((lastMs + 0.001) / 4) * 4, Number(timeMs) - 0.001);
    move(signal!, Number(timeMs), Number(value));
    lastMs = Number(timeMs);
  }
}

/** The values that a controller was sent. */
export const values = ({ sent }: Player, controller = 20) => sent.filter(({ bytes }) => (bytes[0]! & 0xf0) === 0xb0 && bytes[1] === controller).map(({ bytes }) => bytes[2]);
export const last = (player: Player, controller = 20) => values(player, controller).at(-1);
