import type { Found, SourceReport } from './feed';
import { isInputOf, isOfAnySender, isSignalOf } from './feed';
import type { RigDocument, RigSignal } from '../rig/document';
import type { Change } from '../rig/edit';
import type { RigInput } from './kinds';
import { inputKind } from './kinds';
import { streamsOfInput } from '../voices/streamsOfInput';
import { freeId, freeName } from '../rig/naming';

/** So many signals of one input are taken up by themselves; a flood of addresses stops there. */
const SIGNALS_OF_AN_INPUT = 256;

/**
 * What to change in a rig so that it knows what arrived: inputs and signals that it does not have yet, and for a gamepad
 * that was never seen, mappings that make it sound at once. Empty where everything is known.
 */
export function takeUp(rig: RigDocument, found: readonly Found[]): Change[] {
  const changes: Change[] = [];
  const ids = new Set([...rig.inputs, ...rig.signals, ...rig.derived, ...rig.mappings].map(({ id }) => id));
  const inputs = [...rig.inputs];
  const signals = [...rig.signals];
  for (const { feed, input: standsFor, sources } of found) {
    let input = inputs.find((known) => known.id === standsFor || isInputOf(known, feed)) ?? takerOf(rig, sources);
    const fresh = !input;
    const waits = input ? -1 : inputs.findIndex((known) => known.kind === feed.kind && inputKind(known.kind).waits && !('device' in known));
    if (waits >= 0) {
      input = { ...inputs[waits]!, device: { report: feed.report, slot: feed.slot } } as RigInput;
      inputs[waits] = input;
      changes.push({ list: 'inputs', id: input.id, to: input });
    }
    if (!input) {
      const name = freeName(feed.name, inputs.map((known) => known.name));
      const { found: made } = inputKind(feed.kind);
      if (!made) continue;
      input = made({ id: freeId(name, ids), name }, { report: feed.report, slot: feed.slot });
      inputs.push(input);
      changes.push({ list: 'inputs', id: input.id, to: input });
    }
    const { id } = input;
    if (fresh || waits >= 0) changes.push(...streamsOfInput(rig, input));
    const own = signals.filter((signal) => signal.input === id);
    const made: RigSignal[] = [];
    for (const source of sources) {
      if (own.length + made.length >= SIGNALS_OF_AN_INPUT) break;
      if (own.some((known) => isSignalOf(known, source)) || made.some((known) => isSignalOf(known, source))) continue;
      made.push(signalOf(source, id, freeId(`${id}.${source.key}`, ids)));
    }
    for (const signal of made) {
      const pairKey = sources.find(({ key, osc }) => isSignalOf(signal, { key, ...(osc ? { osc } : {}) }))?.pair;
      const pair = pairKey === undefined ? undefined : [...own, ...made].find(({ source }) => source === pairKey);
      if (pair) signal.pair = pair.id;
    }
    signals.push(...made);
    changes.push(...made.map((to): Change => ({ list: 'signals', id: to.id, to })));
    if (fresh) changes.push(...(inputKind(feed.kind).ready?.(rig, input, made, ids) ?? []));
  }
  return changes;
}

/** The input that takes one of these addresses from any sender. */
function takerOf(rig: RigDocument, sources: readonly SourceReport[]): RigInput | undefined {
  return rig.inputs.find((input) => isOfAnySender(input) && rig.signals.some((signal) => signal.input === input.id && sources.some((source) => source.osc && isSignalOf(signal, source))));
}

function signalOf(source: SourceReport, input: string, id: string): RigSignal {
  const { key, name, kind, unit, range, rest, period, group, osc } = source;
  return {
    ...{ id, input, name, kind, unit, range, ...(osc ? { osc } : { source: key }) },
    ...(rest === undefined ? {} : { rest }),
    ...(period === undefined ? {} : { period }),
    ...(group === undefined ? {} : { group }),
  };
}
