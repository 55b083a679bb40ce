import type { Engine } from '../core/engine/engine';
import type { EventNow } from '../core/engine/event';
import { inverseOf } from '../core/mapping/inverse';
import type { MidiMessage } from '../core/midi/message';
import { bendAddress, controllerAddress, fineAddress, parameterAddress, pressureAddress, WholeValues, type WholeValue } from '../core/midi/wholeValues';
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
  said: WholeValue;
  signal: string;
  /** Where the signal stands with a value of the wire, as it is at `near` now. */
  signalValue(value: number, near: number): number;
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

  get isEmpty(): boolean {
    return this.places.size === 0;
  }

  /** What an input says of the mappings whose receiver it comes from; none: it is nothing of theirs. */
  of(input: string, said: WholeValue): CameBack[] {
    return (this.places.get(`${input} ${said.address}`) ?? []).map(({ lo, hi, inverse, ...place }) => ({ ...place, said, signalValue: (value: number, near: number) => inverse()(hi === lo ? 0 : Math.min(1, Math.max(0, (value - lo) / (hi - lo))), near) }));
  }
}

/** Lets what no finger holds follow what receivers say of it; nothing leaves by that. */
export class ComingBack {
  private places: ComeBack | null = null;
  /** By input: what it said, as values. */
  private readonly values = new Map<string, WholeValues>();

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
    const { places: known } = this;
    if (!engine || !known || known.isEmpty) return false;
    const values = this.values.get(input) ?? new WholeValues();
    this.values.set(input, values);
    const places = values.of(message).flatMap((said) => known.of(input, said));
    for (const { mapping, said: { value, bytes }, signal, signalValue, touches, output } of places) {
      if (value === null) continue;
      this.desk.stands(output, bytes);
      const { plan, values: now } = engine;
      const valueOf = (id: string) => now[plan.signalIndex.get(id) ?? -1] ?? NaN;
      if (touches.some((touch) => valueOf(touch) > 0)) continue;
      this.happens({ kind: 'cameBack', mapping: plan.mappings.findIndex(({ rig }) => rig.id === mapping), value, signalValue: signalValue(value, valueOf(signal)) });
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

/** As what comes back says it; null for what does not. */
function addressOf(message: MessageSpec): string | null {
  switch (message.kind) {
    case 'controlChange':
      return controllerAddress(message.channel, message.controller);
    case 'controlChange14':
      return fineAddress(message.channel, message.controller);
    case 'parameter':
      return parameterAddress(message.channel, message.registered, message.parameter, message.bits);
    case 'pitchBend':
      return bendAddress(message.channel);
    case 'channelPressure':
      return pressureAddress(message.channel);
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
