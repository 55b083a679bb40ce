import { readFileSync } from 'node:fs';
import { Engine } from '../src/core/engine/engine';
import { VOICE_BASE, whoOf, type Who } from '../src/core/engine/sink';
import { splitMessages } from '../src/core/midi/decode';
import { hexOf } from '../src/core/midi/describe';
import type { RigDocument } from '../src/core/rig/document';
import { checkRig } from '../src/protocol/rig';

/** Ticks between events, as the hub makes them. */
export const TICK_MS = 4;

export interface Rendered {
  timeMs: number;
  output: string;
  bytes: string;
  who: Who;
  mapping: string | null;
}

/** A rig of a file; where it is none, `fail` says why. */
export function readRig(file: string, fail: (sentence: string) => never): RigDocument {
  let parsed: unknown;
  try {
    parsed = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    return fail(`${file} cannot be read as JSON (${(error as Error).message}).`);
  }
  const checked = checkRig(parsed);
  return checked.ok ? checked.value : fail([`${file} is not a rig of this version:`, ...checked.problems.map(({ message }) => `  ${message}`)].join('\n'));
}

/** An engine with a rig, and what it sends. */
export function rendering(rig: RigDocument, seed: number): { engine: Engine; rendered: Rendered[] } {
  const rendered: Rendered[] = [];
  const engine: Engine = new Engine(
    rig,
    {
      midi(output, mapping, bytes, length) {
        const to = engine.plan.outputIds[output]!;
        const from = (mapping >= VOICE_BASE ? engine.plan.voices[mapping - VOICE_BASE] : engine.plan.mappings[mapping])?.rig.id ?? null;
        for (const message of splitMessages(bytes.slice(0, length))) rendered.push({ timeMs: engine.messageMs, output: to, bytes: hexOf(message), who: whoOf(mapping), mapping: from });
      },
      osc: () => undefined,
    },
    seed,
  );
  return { engine, rendered };
}
