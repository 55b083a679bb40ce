import type { RigDocument } from '../rig/document';
import { SAYS, voiceEvent, type VoiceEvent } from '../voices/event';
import type { EngineEvent } from './event';
import type { Plan } from './plan';

/** Events that name nothing by its number. */
type Plain = Extract<EngineEvent, { kind: 'tick' | 'start' | 'recall' | 'tempo' | 'tapped' | 'transport' | 'goTo' | 'nudge' | 'endThru' | 'setUp' | 'panic' | 'release' | 'endTake' }>;

/**
 * An event as a log keeps it: plain JSON, with signals and mappings by their id, for their numbers are others after an edit.
 * The log of everything that an engine was given, with the rig and the seed that it began with, gives the same messages.
 */
export type LoggedEvent =
  | Plain
  | ({ timeMs: number } & (
      /** As text where it is no finite number, which JSON has no word for. */
      | { kind: 'sample' | 'heldOn' | 'restore'; signal: string; value: number | (typeof NOT_FINITE)[number] }
      /** What is not said of a voice is left out. */
      | ({ kind: VoiceEvent['kind']; stream: string; voice: number } & Partial<Record<'pitch' | 'strike' | 'pressure' | 'slide' | 'release', number>>)
      | { kind: 'pedal'; stream: string; controller: number; value: number }
      | { kind: 'endStream'; stream: string }
      | { kind: 'rig'; rig: RigDocument }
      | { kind: 'show'; mapping: string; level: number }
      | { kind: 'cameBack'; mapping: string; value: number; signalValue: number }
      | { kind: 'sayAgain'; mappings: string[] }
      | { kind: 'pass'; input: string; output: string; bytes: number[] }
      | { kind: 'send' | 'play'; output: string; bytes: number[] }
    ));

export const NOT_FINITE = ['Infinity', '-Infinity', 'NaN'] as const;

/** An event of the engine, for its log; `plan` is the one in force before it. Null where it names what is not there. */
export function toLog(event: EngineEvent, plan: Plan): LoggedEvent | null {
  const { timeMs } = event;
  const mappingId = (m: number) => plan.mappings[m]?.rig.id;
  switch (event.kind) {
    case 'sample':
    case 'heldOn':
    case 'restore': {
      const signal = plan.signalIds[event.signal];
      return signal === undefined ? null : { kind: event.kind, timeMs, signal, value: Number.isFinite(event.value) ? event.value : (String(event.value) as (typeof NOT_FINITE)[number]) };
    }
    case 'on':
    case 'move':
    case 'off': {
      const stream = plan.streamIds[event.stream];
      if (stream === undefined) return null;
      const said = SAYS[event.kind].filter((field) => Number.isFinite(event[field])).map((field) => [field, event[field]]);
      return { kind: event.kind, timeMs, stream, voice: event.voice, ...(Object.fromEntries(said) as object) };
    }
    case 'pedal':
    case 'endStream': {
      const stream = plan.streamIds[event.stream];
      return stream === undefined ? null : ({ ...event, stream } as LoggedEvent);
    }
    case 'show': {
      const mapping = mappingId(event.mapping);
      return mapping === undefined ? null : { kind: 'show', timeMs, mapping, level: event.level };
    }
    case 'cameBack': {
      const mapping = mappingId(event.mapping);
      return mapping === undefined ? null : { kind: 'cameBack', timeMs, mapping, value: event.value, signalValue: event.signalValue };
    }
    case 'sayAgain':
      return { kind: 'sayAgain', timeMs, mappings: [...event.mappings].flatMap((m) => mappingId(m) ?? []) };
    case 'pass':
      return { kind: 'pass', timeMs, input: event.input, output: event.output, bytes: [...event.bytes] };
    case 'send':
    case 'play':
      return { kind: event.kind, timeMs, output: event.output, bytes: [...event.bytes] };
    default:
      return event;
  }
}

/** The event of a logged one, for an engine with this plan. Null where the rig has nothing of that id. */
export function fromLog(logged: LoggedEvent, plan: Plan): EngineEvent | null {
  const { timeMs } = logged;
  const mappingIndex = (id: string) => plan.mappings.findIndex(({ rig }) => rig.id === id);
  switch (logged.kind) {
    case 'sample':
    case 'heldOn':
    case 'restore': {
      const signal = plan.signalIndex.get(logged.signal);
      return signal === undefined ? null : { kind: logged.kind, timeMs, signal, value: Number(logged.value) };
    }
    case 'on':
    case 'move':
    case 'off': {
      const stream = plan.streamIndex.get(logged.stream);
      return stream === undefined ? null : { ...voiceEvent(logged.kind), ...logged, stream };
    }
    case 'pedal':
    case 'endStream': {
      const stream = plan.streamIndex.get(logged.stream);
      return stream === undefined ? null : ({ ...logged, stream } as EngineEvent);
    }
    case 'show': {
      const mapping = mappingIndex(logged.mapping);
      return mapping < 0 ? null : { kind: 'show', timeMs, mapping, level: logged.level };
    }
    case 'cameBack': {
      const mapping = mappingIndex(logged.mapping);
      return mapping < 0 ? null : { kind: 'cameBack', timeMs, mapping, value: logged.value, signalValue: logged.signalValue };
    }
    case 'sayAgain':
      return { kind: 'sayAgain', timeMs, mappings: logged.mappings.map(mappingIndex).filter((m) => m >= 0) };
    case 'pass':
      return { kind: 'pass', timeMs, input: logged.input, output: logged.output, bytes: Uint8Array.from(logged.bytes) };
    case 'send':
    case 'play':
      return { kind: logged.kind, timeMs, output: logged.output, bytes: Uint8Array.from(logged.bytes) };
    default:
      return logged;
  }
}
