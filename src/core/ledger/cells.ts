import type { RigDocument } from '../rig/document';
import { FREE_FIRST, ledgerOf, reservedController } from './ledger';

/** What a controller number of a channel is: in use, met by two, in use against advice, refused, good to take, or plain. */
export type CellState = 'used' | 'clash' | 'warned' | 'refused' | 'best' | 'free';

/** One channel of an output at a glance. */
export interface ChannelCells {
  channel: number;
  /** By controller number 0-127. */
  controllers: CellState[];
  notes: number;
  bend: CellState | null;
  pressure: CellState | null;
  program: CellState | null;
  parameters: number;
  /** The voice mappings that have all of it. */
  voices: string[];
}

/** The sixteen channels of an output by message kind. */
export function ledgerCells(rig: RigDocument, output: string): ChannelCells[] {
  const { claims, clashes, warnings } = ledgerOf(rig);
  const clashing = new Set(clashes.map(({ key }) => key));
  const warned = new Set(warnings.map(({ claim }) => claim.key));
  const stateOf = (key: string): CellState => (clashing.has(key) ? 'clash' : warned.has(key) ? 'warned' : 'used');
  const best = new Set(FREE_FIRST);
  return Array.from({ length: 16 }, (_, i): ChannelCells => {
    const channel = i + 1;
    const mine = claims.filter((claim) => claim.output === output && claim.channel === channel);
    const controllers = Array.from({ length: 128 }, (_, number): CellState => (reservedController(number) ? 'refused' : best.has(number) ? 'best' : 'free'));
    const zones = mine.filter(({ kind }) => kind === 'zone');
    for (const { key } of zones) controllers.forEach((state, number) => state !== 'refused' && (controllers[number] = stateOf(key)));
    for (const { kind, number, key } of mine) if (kind === 'controller' && number !== null) controllers[number] = stateOf(key);
    const only = (kind: string) => {
      const claim = mine.find((candidate) => candidate.kind === kind);
      return claim ? stateOf(claim.key) : null;
    };
    return {
      channel,
      controllers,
      notes: new Set(mine.filter(({ kind }) => kind === 'note').map(({ number }) => number)).size,
      bend: only('bend'),
      pressure: only('pressure'),
      program: only('program'),
      parameters: mine.filter(({ kind }) => kind === 'parameter').length,
      voices: zones.flatMap(({ mapping }) => rig.voiceMappings.find(({ id }) => id === mapping)?.name ?? []),
    };
  });
}
