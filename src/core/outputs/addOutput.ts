import { samePort, type PortIdentity } from '../midi/portName';
import type { ReceiverSound } from '../instruments/instruments';
import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import { freeId, freeName } from '../rig/naming';
import type { RigOutput } from './kinds';

/** Where an output leads, without what else it is. */
export type Leads =
  | { kind: 'standIn' }
  | { kind: 'osc'; host: string; port: number }
  | { kind: 'port' | 'page'; device: PortIdentity }
  | { kind: 'virtual'; port: string }
  | { kind: 'network'; session: string; peer?: string };

const NAME_LENGTH = 80;
/** What nearly every receiver bends by until it is told otherwise (General MIDI 1, RPN 0). */
const USUAL_BEND_SEMITONES = 2;

/** What a new stand-in sounds like. */
const PRACTICE: ReceiverSound = { instrument: 'struck', learned: [] };

/** A new output, with a receiver of its name. */
export function addOutput(rig: RigDocument, leads: Leads, name: string): { id: string; changes: Change[] } {
  const free = freeName(name.trim().slice(0, NAME_LENGTH - 4) || 'Output', rig.outputs.map((output) => output.name));
  const id = freeId(free, new Set(rig.outputs.map((output) => output.id)));
  const receiver = freeId(free, new Set(rig.receivers.map((known) => known.id)));
  return {
    id,
    changes: [
      { list: 'receivers', id: receiver, to: { id: receiver, name: freeName(free, rig.receivers.map((known) => known.name)), about: '', bendRangeSemitones: USUAL_BEND_SEMITONES, ...(leads.kind === 'standIn' ? { sound: PRACTICE } : {}) } },
      { list: 'outputs', id, to: { id, name: free, receiver, ...leads } as RigOutput },
    ],
  };
}

/** The output with what it is, leading elsewhere. */
export function leadTo({ id, name, receiver, bytesPerS, sendsClock, muted, delayMs, filter, configuration, comesBack }: RigOutput, leads: Leads): RigOutput {
  const kept = { id, name, receiver, bytesPerS, muted, delayMs, ...(leads.kind === 'osc' ? {} : { sendsClock, filter, configuration, comesBack }) };
  return { ...Object.fromEntries(Object.entries(kept).filter(([, value]) => value !== undefined)), ...leads } as RigOutput;
}

/** Of these ports those that no output of the rig leads to yet. */
export function unusedPorts(rig: RigDocument, kind: 'port' | 'page', ports: readonly PortIdentity[]): PortIdentity[] {
  return ports.filter((at) => !rig.outputs.some((output) => output.kind === kind && samePort(output.device, at)));
}

/** Of these names those that no output leads to yet over network MIDI; undefined is everybody in a session. */
export function unusedPeers(rig: RigDocument, session: string, names: readonly (string | undefined)[]): (string | undefined)[] {
  return [...new Set(names)].filter((peer) => !rig.outputs.some((output) => output.kind === 'network' && output.session === session && output.peer === peer));
}

/** An output with the receiver that nothing else plays goes, and with it what cannot be without it; see `rig/remove`. */
export function goingWithOutput(rig: RigDocument, id: string): { kind: 'output' | 'receiver'; id: string }[] {
  const output = rig.outputs.find((candidate) => candidate.id === id);
  const alone = output && !rig.outputs.some((other) => other.id !== id && other.receiver === output.receiver);
  return [{ kind: 'output', id }, ...(alone ? [{ kind: 'receiver' as const, id: output.receiver }] : [])];
}
