import { periodicDifference } from '../signal/period';
import { clampUnit } from '../units/unitInterval';
import { setSignal } from './drive';
import type { Glide } from './memory';
import type { Running } from './running';
import type { AnySignal } from './signalPlan';

/** Sends a signal on its way to a value by itself; at once where that takes no time or it was never heard. */
export function glideTo(r: Running, signal: number, to: number, overMs: number): void {
  const from = r.memory.values[signal]!;
  if (overMs > 0 && !Number.isNaN(from)) r.memory.glides.set(signal, { from, to, sinceMs: r.nowMs, overMs });
  else {
    r.memory.glides.delete(signal);
    move(r, signal, to);
  }
}

/** On a tick. */
export function moveGlides(r: Running): void {
  for (const [signal, glide] of r.memory.glides) moveGlide(r, signal, glide);
}

/** A touch that ends sends the signals that spring back on their way. A new one is itself a sample, which stops them. */
export function springBack(r: Running, gate: number): void {
  for (const { gate: touch, signal, to, overMs } of r.plan.springs) {
    const from = r.memory.values[signal]!;
    if (touch === gate && !Number.isNaN(from) && from !== to) glideTo(r, signal, to, overMs);
  }
}

function moveGlide(r: Running, signal: number, { from, to, sinceMs, overMs }: Glide): void {
  const part = clampUnit((r.nowMs - sinceMs) / overMs);
  if (part >= 1) r.memory.glides.delete(signal);
  move(r, signal, part >= 1 ? to : onTheWay(r.plan.signals[signal]!, from, to, part));
}

/** An angle goes the short way, over the end of its circle where that is it. */
function onTheWay({ period = 0, range }: AnySignal, from: number, to: number, part: number): number {
  const value = from + part * periodicDifference(to, from, period);
  const lo = Math.min(...range);
  return period > 0 ? value - period * Math.floor((value - lo) / period) : value;
}

function move(r: Running, signal: number, value: number): void {
  r.memory.times.moved(signal, r.nowMs, value !== r.memory.values[signal]);
  setSignal(r, signal, value);
}
