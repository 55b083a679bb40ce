import { useEffect, useMemo, useRef } from 'react';
import { transferOf } from '../../../core/mapping/transfer';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { rangeIn } from '../../../core/shaping/rangeIn';
import { useLive } from '../../live/LiveProvider';
import { drawTrace, drawTraceEnd, isAlive } from '../shared/drawTrace';
import { drawDot, drawTransfer, transferAxes, transferPath } from '../shared/drawTransfer';
import { Trace, TRACE_MS } from '../shared/trace';
import { useCanvas, type Drawing } from '../shared/useCanvas';

/** The picture of the shaping at the right end, and what is free before it. */
const TRANSFER_PX = 72;
const GAP_PX = 14;
const EDGE_PX = 3;

interface BandPictureProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** The trace of a signal and the picture of its shaping on one canvas: hundreds of bands are as many pictures, not twice. */
export function BandPicture({ mapping, signal }: BandPictureProps) {
  const live = useLive();
  const trace = useRef(new Trace());
  const changedMs = useRef(-Infinity);
  const transfer = useMemo(() => transferOf(mapping, signal), [mapping, signal]);
  const curve = useRef<{ of: typeof transfer; height: number; path: Path2D } | null>(null);
  const { ref, wake } = useCanvas((drawing) => {
    const { context, width, height, nowMs, palette } = drawing;
    const left: Drawing = { ...drawing, width: width - TRANSFER_PX - GAP_PX };
    context.fillStyle = palette.hairline;
    context.fillRect(0, height - EDGE_PX, left.width, 1);
    const toUnit = (value: number) => rangeIn(value, signal.range[0], signal.range[1]);
    drawTrace(left, trace.current, toUnit, palette.ink);
    drawTraceEnd(left, trace.current, toUnit, isAlive(changedMs.current, nowMs));

    const right: Drawing = { ...drawing, width: TRANSFER_PX, height: height - 2 * EDGE_PX };
    const axes = transferAxes(signal.range, mapping.message, right);
    if (curve.current?.of !== transfer || curve.current.height !== height) curve.current = { of: transfer, height, path: transferPath(signal.range, transfer, axes) };
    context.save();
    context.translate(width - TRANSFER_PX, EDGE_PX);
    context.fillStyle = palette.raised;
    context.fillRect(0, 0, right.width, right.height);
    drawTransfer(right, curve.current.path);
    const value = live.signalValue(signal.id);
    const level = live.mappingLevel(mapping.id);
    if (value !== undefined && level !== undefined) drawDot(right, axes, value, level, transfer(value));
    context.restore();
  }, true);
  useEffect(() => {
    const removers = [
      live.onSignal(signal.id, (value) => {
        const nowMs = performance.now();
        if (value !== trace.current.latest) changedMs.current = nowMs;
        trace.current.push(nowMs, value);
        wake(TRACE_MS);
      }),
      live.onMapping(mapping.id, () => wake()),
    ];
    return () => removers.forEach((remove) => remove());
  }, [live, signal.id, mapping.id, wake]);
  return <canvas ref={ref} className="band-picture" aria-hidden />;
}
