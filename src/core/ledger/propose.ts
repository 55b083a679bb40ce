import type { RigDerived, RigDocument, RigMapping, RigReceiver, RigSignal } from '../rig/document';
import { takes } from '../rig/outputs';
import type { Change } from '../rig/edit';
import { mappingIds } from '../rig/find';
import { freeId } from '../rig/naming';
import { claimsOf, type Claim } from './claims';
import { freeControllers, openChannels } from './ledger';
import { channelOf, isGateMessage, MESSAGES, type MessageSpec } from '../messages';

/** A message that makes sense for a signal, with a channel and number that nothing else uses. */
export interface Proposal {
  kind: 'controller' | 'fine controller' | 'bend' | 'pressure' | 'note' | 'program' | 'start' | 'stop' | 'osc';
  message: MessageSpec;
}

/** Notes are proposed from here up: C2, where drum and key ranges of most receivers begin (common practice). */
const LOWEST_NOTE = 36;
const VELOCITY = 100;
const NO_BEFORE = { channel: 1, controller: 20, note: 60, free: [] };

/**
 * What a signal could send to an output, the most usual first. The channel is the one that most mappings of the same input
 * use there, else of any, else the first that is open; numbers are the next free of that channel. None where voices have every channel.
 */
export function proposeMessages(rig: RigDocument, signal: RigSignal | RigDerived, output: string): Proposal[] {
  const way = rig.outputs.find(({ id }) => id === output);
  if (way && takes(way) === 'osc') return [{ kind: 'osc', message: { ...MESSAGES.osc.fresh(NO_BEFORE), address: `/${signal.id.replaceAll('.', '/')}` } }];
  const channel = channelFor(rig, signal, output);
  const claims = claimsOf(rig).filter((claim) => claim.output === output && claim.channel === channel);
  const has = (...kinds: Claim['kind'][]) => claims.some((claim) => kinds.includes(claim.kind));
  const free = freeControllers(rig, output, channel);
  const freeNotes = rig.receivers.find(({ id }) => id === way?.receiver)?.freeNotes;
  const proposals: Proposal[] = [];
  const isGate = signal.kind === 'gate';
  if (isGate) {
    const found = freeKey(rig, output, channel);
    if (found) proposals.push({ kind: 'note', message: { kind: 'note', ...found, velocity: VELOCITY } });
  }
  const [controller] = free;
  if (controller !== undefined) proposals.push({ kind: 'controller', message: { kind: 'controlChange', channel, controller, range: [0, 127] } });
  if (isGate) {
    if (!has('program', 'zone')) proposals.push({ kind: 'program', message: { kind: 'programChange', channel, range: [1, 1] } });
    for (const action of ['start', 'stop'] as const) proposals.push({ kind: action, message: { kind: 'transport', action } });
    return proposals;
  }
  const taken = new Set(claims.flatMap(({ kind, number }) => (kind === 'controller' && number !== null ? [number] : [])));
  const fine = free.find((number) => number < 32 && !taken.has(number + 32));
  if (fine !== undefined) proposals.push({ kind: 'fine controller', message: { kind: 'controlChange14', channel, controller: fine, range: [0, 16383] } });
  if (!has('bend', 'zone')) proposals.push({ kind: 'bend', message: { kind: 'pitchBend', channel, range: [0, 16383] } });
  if (!has('pressure', 'zone')) proposals.push({ kind: 'pressure', message: { kind: 'channelPressure', channel, range: [0, 127] } });
  const note = has('zone') ? null : freeNote(claims, freeNotes);
  if (note !== null) proposals.push({ kind: 'note', message: { kind: 'note', channel, note, velocity: VELOCITY } });
  return proposals;
}

/** A note that nothing else uses: on this channel, or where voices have all of its keys on the first other one that has some left. */
function freeKey(rig: RigDocument, output: string, channel: number): { channel: number; note: number } | null {
  const receiver = rig.receivers.find(({ id }) => id === rig.outputs.find((way) => way.id === output)?.receiver);
  const claims = claimsOf(rig).filter((claim) => claim.output === output);
  for (const where of [channel, ...openChannels(rig, output)]) {
    const there = claims.filter((claim) => claim.channel === where);
    const note = there.some(({ kind }) => kind === 'zone') ? null : freeNote(there, receiver?.freeNotes);
    if (note !== null) return { channel: where, note };
  }
  return null;
}

/** A mapping of a signal with a proposed message, named after the signal. */
export function addMapping(rig: RigDocument, signal: RigSignal | RigDerived, output: string, message: MessageSpec): { change: Change; id: string } {
  const id = freeId(signal.name, mappingIds(rig));
  const to: RigMapping = { id, name: signal.name, on: true, signal: signal.id, shaping: {}, message, output };
  // A note from something that slides needs to know where it begins and ends.
  if (isGateMessage(message, signal.kind) && signal.kind === 'continuous') to.gate = { on: 0.5, off: 0.4 };
  return { change: { list: 'mappings', id, to }, id };
}

function channelFor(rig: RigDocument, signal: RigSignal | RigDerived, output: string): number {
  const input = 'input' in signal ? signal.input : null;
  const inputOf = new Map(rig.signals.map(({ id, input: from }) => [id, from]));
  const open = openChannels(rig, output);
  const there = rig.mappings.filter((mapping) => mapping.output === output && open.includes(channelOf(mapping.message)));
  const same = there.filter((mapping) => inputOf.get(mapping.signal) === input);
  const counts = new Map<number, number>();
  for (const { message } of same.length > 0 ? same : there) counts.set(channelOf(message), (counts.get(channelOf(message)) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]?.[0] ?? open[0] ?? 1;
}

/** A note that nothing else uses, where it can be one that plays nothing at the receiver. */
function freeNote(claims: readonly Claim[], free: RigReceiver['freeNotes']): number | null {
  const taken = new Set(claims.flatMap(({ kind, number }) => (kind === 'note' ? [number] : [])));
  for (let note = free?.low ?? 128; note <= (free?.high ?? 0); note++) if (!taken.has(note)) return note;
  for (let note = LOWEST_NOTE; note < 128; note++) if (!taken.has(note)) return note;
  return null;
}
