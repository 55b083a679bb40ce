import { beforeEach, expect, it, vi } from 'vitest';
import type { RigMapping } from '../../core/rig/document';
import type { LiveConnection } from '../live/connection';
import { SlotsById } from '../live/slots';
import { BENCH } from '../theme/tokens';
import { LIT_MS, MeterPicture } from './meterPicture';

const MAPPING = { id: 'fog', message: { kind: 'controlChange', channel: 1, controller: 20, range: [0, 127] } } as RigMapping;

let levels: SlotsById<number>;
const meter = () => new MeterPicture({ store: { levels } } as unknown as LiveConnection, MAPPING, () => undefined);
/** Of which colour its bar is. */
function colourOf(picture: MeterPicture, inMs = 0): string {
  let colour = '';
  const context = { fillStyle: '', fillRect: () => void (colour ||= context.fillStyle), beginPath: vi.fn(), roundRect: vi.fn(), fill: vi.fn(), save: vi.fn(), clip: vi.fn(), restore: vi.fn() };
  picture.draw({ context: context as unknown as OffscreenCanvasRenderingContext2D, width: 100, height: 8, palette: BENCH, nowMs: performance.now() + inMs });
  return colour;
}

beforeEach(() => void (levels = new SlotsById(() => undefined)));

it('is not lit by what stood there before it was looked at, and is by what follows', () => {
  const picture = meter();
  levels.set('fog', 0.5);
  expect(colourOf(picture)).toBe(BENCH.accent);
  levels.set('fog', 0.6);
  expect(colourOf(picture)).toBe(BENCH.alive);
  expect(colourOf(picture, LIT_MS + 50)).toBe(BENCH.accent);
});

it('is lit by the first that leaves at all', () => {
  const picture = meter();
  levels.silent.add('fog');
  levels.set('fog', 0.5);
  expect(colourOf(picture)).toBe(BENCH.alive);
});

it('is lit by the next where another picture of the same was there first', () => {
  meter();
  levels.set('fog', 0.5);
  const picture = meter();
  expect(colourOf(picture)).toBe(BENCH.accent);
  levels.set('fog', 0.5);
  expect(colourOf(picture)).toBe(BENCH.alive);
});
