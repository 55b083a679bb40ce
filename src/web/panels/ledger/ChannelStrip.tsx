import { useState, type KeyboardEvent, type MouseEvent } from 'react';
import type { CellState, ChannelCells } from '../../../core/ledger/cells';
import { claimsOf } from '../../../core/ledger/claims';
import type { RigDocument } from '../../../core/rig/document';
import { counted } from '../../../core/units/counted';
import { ScreenLink } from '../shared/ScreenLink';
import ledger from './ledger.module.css';

const CONTROLLERS = 128;
const CELL = 6;
const HEIGHT = 22;

const WORDS: Record<CellState, string> = { used: 'in use', clash: 'in a clash', warned: 'in use, warned', refused: 'channel mode: refused', best: 'free, proposed first', free: 'free' };

interface ChannelStripProps {
  cells: ChannelCells;
  output: string;
  rig: RigDocument;
  advice: string | null;
}

/** One channel: its 128 controllers as a row of cells, and what else is in use; one cell can be looked at. */
export function ChannelStrip({ cells, output, rig, advice }: ChannelStripProps) {
  const [looked, look] = useState<number | null>(null);
  const { channel, controllers } = cells;
  const used = controllers.flatMap((state, number) => (state === 'used' || state === 'clash' || state === 'warned' ? [number] : []));
  const others = [
    cells.voices.length > 0 && `voices: ${cells.voices.join(', ')}`,
    cells.notes > 0 && counted(cells.notes, 'note'),
    cells.bend && 'bend',
    cells.pressure && 'pressure',
    cells.program && 'program',
    cells.parameters > 0 && `${cells.parameters} RPN/NRPN`,
  ].filter((part) => typeof part === 'string');
  const point = ({ nativeEvent, currentTarget }: MouseEvent<SVGSVGElement>) =>
    look(Math.max(0, Math.min(CONTROLLERS - 1, Math.floor((nativeEvent.offsetX / currentTarget.clientWidth) * CONTROLLERS))));
  const keys = ({ key }: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, PageUp: 16, PageDown: -16 }[key];
    if (step) look(Math.max(0, Math.min(CONTROLLERS - 1, (looked ?? (step > 0 ? -1 : 0)) + step)));
    if (key === 'Escape') look(null);
  };
  return (
    <li className={ledger.channel} data-busy={used.length + others.length > 0}>
      <span className={ledger.channelNumber}>{channel}</span>
      <svg
        viewBox={`0 0 ${CONTROLLERS * CELL} ${HEIGHT}`}
        preserveAspectRatio="none"
        role="slider"
        tabIndex={0}
        aria-label={`Controllers of channel ${channel}`}
        aria-valuemin={0}
        aria-valuemax={CONTROLLERS - 1}
        aria-valuenow={looked ?? 0}
        aria-valuetext={looked === null ? `in use: ${used.length === 0 ? 'none' : used.join(', ')}` : `${looked}, ${WORDS[controllers[looked]!]}`}
        onClick={point}
        onKeyDown={keys}
        onBlur={() => look(null)}
      >
        {controllers.map((state, number) => (
          <rect key={number} data-state={state} x={number * CELL + 0.5} y={0} width={CELL - 1} height={HEIGHT} />
        ))}
        {controllers.map((state, number) => state === 'clash' && <path key={number} className={ledger.cross} d={`M${number * CELL + 1} 6l4 10m0-10l-4 10`} />)}
        {looked !== null && <rect className={ledger.looked} x={looked * CELL - 0.5} y={0} width={CELL + 1} height={HEIGHT} />}
      </svg>
      <span className={ledger.channelOthers}>{others.join(', ') || (used.length === 0 ? advice : '')}</span>
      {looked !== null && (
        <p className={ledger.lookedAt}>
          CC {looked}: {WORDS[controllers[looked]!]}
          {usersOf(rig, output, channel, looked).map(({ id, name }) => (
            <ScreenLink key={id} href={`/mappings#${id}`} onMouseDown={(event) => event.preventDefault()}>
              {name}
            </ScreenLink>
          ))}
        </p>
      )}
    </li>
  );
}

function usersOf(rig: RigDocument, output: string, channel: number, controller: number): { id: string; name: string }[] {
  const ids = new Set(claimsOf(rig).flatMap((claim) => (claim.output === output && claim.channel === channel && (claim.kind === 'zone' || (claim.kind === 'controller' && claim.number === controller)) ? [claim.mapping] : [])));
  return [...rig.mappings, ...rig.voiceMappings].filter(({ id }) => ids.has(id));
}
