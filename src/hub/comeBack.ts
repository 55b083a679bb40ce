import type { Engine } from '../core/engine/engine';
import type { EventNow } from '../core/engine/event';
import { inverseOf } from '../core/mapping/inverse';
import { encode } from '../core/midi/encode';
import type { MidiMessage } from '../core/midi/message';
import { wireRange, type MessageSpec } from '../core/messages';
import type { RigDocument, RigMapping, RigSignal } from '../core/rig/document';
import { flatControls, signalsInBank } from '../core/surface/controlKinds';
import type { OutputDesk } from './outputs/desk';

/** What a value that comes back is for. */
interface Place {
  mapping: string;
  output: string;
  signal: string;
  lo: number;
  hi: number;
  inverse: () => (level: number, near: number) => number;
  /** The gates that say that a finger holds it. */
  touches: string[];
}

/** A value that came back. */
interface CameBack {
  mapping: string;
  output: string;
  /** In the numbers of the wire. */
  value: number;
  signal: string;
  /** Where the signal stands then, as it is at `near` now. */
  signalValue(near: number): number;
  touches: readonly string[];
}

/** Where what receivers send belongs: by the input that it comes in by, and its address. */
class ComeBack {
  private readonly places = new Map<string, Place[]>();

  constructor(rig: RigDocument) {
    const inputOf = new Map(rig.outputs.flatMap(({ id, comesBack }) => (comesBack === undefined ? [] : [[id, comesBack] as const])));
    if (inputOf.size === 0) return;
    const touches = touchesOf(rig);
    for (const mapping of rig.mappings) {
      const input = inputOf.get(mapping.output);
      const signal = rig.signals.find(({ id }) => id === mapping.signal);
      const address = addressOf(mapping.message);
      if (input === undefined || address === null || signal?.kind !== 'continuous' || mapping.gate) continue;
      const receiver = rig.receivers.find(({ id }) => id === rig.outputs.find((output) => output.id === mapping.output)!.receiver);
      const [lo, hi] = wireRange(mapping.message, receiver?.bendRangeSemitones ?? 2);
      const key = `${input} ${address}`;
      const place: Place = { mapping: mapping.id, output: mapping.output, signal: signal.id, lo, hi, inverse: () => knownInverse(mapping, signal), touches: touches.get(signal.id) ?? [] };
      this.places.set(key, [...(this.places.get(key) ?? []), place]);
    }
  }

  /** What a message of an input says of the mappings whose receiver sent it; none: it is no such message. */
  of(input: string, message: MidiMessage): CameBack[] {
    if (this.places.size === 0) return [];
    const said = said7(message);
    return (said && this.places.get(`${input} ${said.address}`)?.map(({ lo, hi, inverse, ...place }) => ({ ...place, value: said.value, signalValue: (near: number) => inverse()(hi === lo ? 0 : Math.min(1, Math.max(0, (said.value - lo) / (hi - lo))), near) }))) || [];
  }
}

/** Lets what no finger holds follow what receivers say of it; nothing leaves by that. */
export class ComingBack {
  private places: ComeBack | null = null;

  constructor(
    private readonly desk: Pick<OutputDesk, 'stands'>,
    private readonly engine: () => Engine | null,
    private readonly happens: (event: EventNow) => void,
  ) {}

  load(rig: RigDocument): void {
    this.places = new ComeBack(rig);
  }

  /** False where a message of an input is no value that comes back: then it is played like any other. */
  take(input: string, message: MidiMessage): boolean {
    const engine = this.engine();
    const places = (engine && this.places?.of(input, message)) ?? [];
    for (const { mapping, value, signal, signalValue, touches, output } of places) {
      this.desk.stands(output, encode(message));
      const { plan, values } = engine!;
      const valueOf = (id: string) => values[plan.signalIndex.get(id) ?? -1] ?? NaN;
      if (touches.some((touch) => valueOf(touch) > 0)) continue;
      this.happens({ kind: 'cameBack', mapping: plan.mappings.findIndex(({ rig }) => rig.id === mapping), value, signalValue: signalValue(valueOf(signal)) });
    }
    return places.length > 0;
  }
}

const inverses = new WeakMap<RigMapping, { signal: RigSignal; inverse: ReturnType<typeof inverseOf> }>();

/** Going backwards costs a millisecond to prepare: it is done when a value comes back, and once for a mapping, whatever else is edited. */
function knownInverse(mapping: RigMapping, signal: RigSignal): ReturnType<typeof inverseOf> {
  const known = inverses.get(mapping);
  if (known?.signal === signal) return known.inverse;
  const inverse = inverseOf(mapping, signal);
  inverses.set(mapping, { signal, inverse });
  return inverse;
}

function addressOf(message: MessageSpec): string | null {
  switch (message.kind) {
    case 'controlChange':
      return `cc ${message.channel} ${message.controller}`;
    case 'pitchBend':
      return `bend ${message.channel}`;
    case 'channelPressure':
      return `pressure ${message.channel}`;
    default:
      return null;
  }
}

function said7(message: MidiMessage): { address: string; value: number } | null {
  switch (message.kind) {
    case 'controlChange':
      return { address: `cc ${message.channel} ${message.controller}`, value: message.value };
    case 'pitchBend':
      return { address: `bend ${message.channel}`, value: message.bend };
    case 'channelPressure':
      return { address: `pressure ${message.channel}`, value: message.pressure };
    default:
      return null;
  }
}

/** By signal of a control: the gates of that control that are on while a finger is there. */
function touchesOf(rig: RigDocument): Map<string, string[]> {
  const touches = new Map<string, string[]>();
  for (const { pages } of rig.surfaces) {
    for (const { controls } of pages) {
      for (const control of flatControls(controls)) {
        for (let bank = 0; bank <= (control.banks?.length ?? 0); bank++) {
          const signals = Object.entries(signalsInBank(control, bank));
          const gates = signals.flatMap(([role, id]) => (role.startsWith('touch') ? [id] : []));
          for (const [role, id] of signals) if (!role.startsWith('touch')) touches.set(id, gates);
        }
      }
    }
  }
  return touches;
}
