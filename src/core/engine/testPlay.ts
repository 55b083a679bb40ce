import { describeBytes, hexOf } from '../midi/describe';
import { splitMessages } from '../midi/decode';
import type { RigDocument, RigMapping } from '../rig/document';
import { Engine } from './engine';
import { testRig } from './testRig';

/** An engine for tests that keeps what it sends: as bytes, as words, and with times. */
export function play(rig: RigDocument, seed?: number) {
  const sent: { timeMs: number; output: number; mapping: number; bytes: Uint8Array; address: number }[] = [];
  const osc: number[] = [];
  const engine: Engine = new Engine(
    rig,
    {
      midi(output, mapping, bytes, length, address) {
        for (const message of splitMessages(bytes.slice(0, length))) sent.push({ timeMs: engine.messageMs, output, mapping, bytes: message, address });
      },
      osc: (_output, _mapping, _path, [argument]) => void osc.push(Number(argument!.value)),
    },
    seed,
  );
  engine.take({ kind: 'start', timeMs: 0 });
  return {
    engine,
    osc,
    sent,
    index: (signal: string) => engine.plan.signalIndex.get(signal)!,
    move(signal: string, timeMs: number, value: number) {
      engine.take({ kind: 'sample', signal: engine.plan.signalIndex.get(signal)!, timeMs, value });
    },
    /** Ticks every 4 ms as long as they are wanted. */
    run(fromMs: number, untilMs: number) {
      for (let timeMs = fromMs; timeMs <= untilMs; timeMs += 4) if (engine.pending) engine.take({ kind: 'tick', timeMs });
    },
    /** What was sent since the last call, in bytes or in words. */
    bytes: () => sent.splice(0).map(({ bytes }) => hexOf(bytes)),
    words: () => sent.splice(0).map(({ bytes }) => describeBytes(bytes)),
  };
}

/** The same for the test rig with these mappings. */
export const playing = (...mappings: Partial<RigMapping>[]) => play(testRig(mappings));
