/**
 * Version 2 has voices: every MIDI input has a stream of its notes, and keys whose mappings agree become one stream with one
 * voice mapping that sounds the same bytes. Keys that send something of their own each stay what they were. What is not as
 * version 1 had it is left alone: the schema says so.
 */
type Thing = Record<string, unknown>;
type Document = Record<string, unknown>;

/** More keys at once than fingers. */
const VOICES = 32;
const USUAL_RELEASE = 64;

export function withVoices(document: Document): Document {
  const rig: Document = { ...document, streams: [], voiceMappings: [], scales: [] };
  const lists = ['inputs', 'signals', 'derived', 'mappings', 'surfaces', 'scenes', 'receivers'] as const;
  if (!lists.every((list) => Array.isArray(document[list]) && (document[list] as unknown[]).every(isThing))) return rig;
  const streams = rig.streams as Thing[];
  for (const { id, name, kind } of things(rig, 'inputs')) if (kind === 'midi') streams.push({ id: `${String(id).slice(0, 56)}.notes`, name: `${String(name).slice(0, 70)}, notes`, input: id, source: 'all' });
  try {
    for (const surface of things(rig, 'surfaces')) keysToVoices(rig, surface);
  } catch (error) {
    // A field that is something else than it was.
    if (!(error instanceof TypeError)) throw error;
  }
  return rig;
}

const isThing = (value: unknown): value is Thing => typeof value === 'object' && value !== null;
const things = (rig: Document, list: string) => rig[list] as Thing[];

/** Every keyboard of a surface whose mappings agree. */
function keysToVoices(rig: Document, surface: Thing): void {
  const input = things(rig, 'inputs').find((candidate) => candidate.kind === 'surface' && candidate.surface === surface.id);
  if (!input) return;
  const change = (control: Thing): Thing => {
    if (control.kind === 'fold') return { ...control, controls: (control.controls as Thing[]).map(change) };
    return control.kind === 'keys' && !control.banks ? voicesOf(rig, input, control) : control;
  };
  const pages = (surface.pages as Thing[]).map((page) => ({ ...page, controls: (page.controls as Thing[]).map(change) }));
  rig.surfaces = things(rig, 'surfaces').map((other) => (other.id === surface.id ? { ...surface, pages } : other));
}

/** A keyboard as one stream; the same control where its mappings do not agree. */
function voicesOf(rig: Document, input: Thing, control: Thing): Thing {
  const signals = control.signals as Record<string, string>;
  const roles = Object.entries(signals);
  const mappings = roles.map(([role, signal]) => ({ key: Number(role.slice('key'.length)), own: things(rig, 'mappings').filter((mapping) => mapping.signal === signal) }));
  const first = mappings[0]?.own[0];
  if (!first || mappings.some(({ key, own }) => own.length !== 1 || sameFor(own[0]!, key) !== sameFor(first, mappings[0]!.key))) return control;
  const message = first.message as Thing;
  if (message.kind !== 'note' || !isPlain(first, message)) return control;
  const ids = new Set(mappings.map(({ own }) => own[0]!.id as string));
  const gates = new Set(roles.map(([, signal]) => signal));
  const switched = things(rig, 'scenes').map((scene) => new Set([...ids].map((id) => (scene.mappings as Thing)[id])));
  if (switched.some((states) => states.size > 1) || isUsedElsewhere(rig, gates, ids)) return control;

  const taken = new Set(['signals', 'derived', 'mappings', 'streams', 'voiceMappings'].flatMap((list) => things(rig, list).map(({ id }) => id)));
  const id = free(`${String(input.id)}.${String(control.id)}`, taken);
  const mappingId = free(`${id}-notes`, taken);
  const name = String(control.label) || 'Keys';
  rig.streams = [...things(rig, 'streams'), { id, name, input: input.id }];
  rig.voiceMappings = [...things(rig, 'voiceMappings'), voiceMapping(mappingId, name, id, first, mappings[0]!.key)];
  rig.mappings = things(rig, 'mappings').filter((mapping) => !ids.has(mapping.id as string));
  rig.signals = things(rig, 'signals').filter((signal) => !gates.has(signal.id as string));
  const without = (record: unknown, gone: ReadonlySet<string>) => Object.fromEntries(Object.entries(record as Thing).filter(([key]) => !gone.has(key)));
  rig.scenes = things(rig, 'scenes').map((scene, s) => {
    const [on] = switched[s]!;
    const rest = { ...scene, mappings: without(scene.mappings, ids), values: without(scene.values, gates) };
    return on === undefined ? rest : { ...rest, voiceMappings: { ...(scene.voiceMappings as Thing), [mappingId]: on } };
  });
  rig.receivers = things(rig, 'receivers').map((receiver) => (receiver.taught ? { ...receiver, taught: without(receiver.taught, ids) } : receiver));
  return { ...control, signals: {}, stream: id };
}

/** What must be the same for all keys: everything but what names the key. */
function sameFor({ on, shaping, output, gate, motion, merge, group, onStage, shownOn, message }: Thing, key: number): string {
  const { note, ...rest } = message as Thing;
  return JSON.stringify({ on, shaping, output, gate, motion, merge, group, onStage, shownOn, away: (note as number) - key, ...rest, kind: (message as Thing).kind });
}

/** A key that strikes while it is held, as hard as it was struck or always the same, and no more. */
function isPlain({ shaping, gate, motion, merge, onStage, shownOn }: Thing, { velocityFrom = 'fixed', length = 'whileHeld', chord, repeat, releaseVelocity = USUAL_RELEASE, transpose = 0 }: Thing): boolean {
  const none = [gate, motion, merge, onStage, shownOn, chord, repeat].every((field) => field === undefined);
  return none && Object.keys(shaping as Thing).length === 0 && (velocityFrom === 'fixed' || velocityFrom === 'strength') && length === 'whileHeld' && releaseVelocity === USUAL_RELEASE && transpose === 0;
}

/** Whether anything but the keyboard and its mappings goes by these signals or mappings. */
function isUsedElsewhere(rig: Document, signals: ReadonlySet<string>, mappings: ReadonlySet<string>): boolean {
  const own = (list: string, thing: Thing) => (list === 'signals' && signals.has(thing.id as string)) || (list === 'mappings' && mappings.has(thing.id as string));
  const others = ['signals', 'derived', 'mappings'].flatMap((list) => things(rig, list).filter((thing) => !own(list, thing)));
  const said = new Set<string>();
  const hear = (value: unknown): void => {
    if (typeof value === 'string') said.add(value);
    else if (isThing(value)) for (const inner of Object.values(value)) hear(inner);
  };
  hear(others);
  for (const { recalledBy } of things(rig, 'scenes')) hear(recalledBy);
  for (const { pages } of things(rig, 'surfaces')) for (const { controls } of pages as Thing[]) for (const { shows } of (controls as Thing[]).flatMap((control) => [control, ...((control.controls as Thing[]) ?? [])])) hear(shows);
  return [...signals, ...mappings].some((id) => said.has(id));
}

function voiceMapping(id: string, name: string, stream: string, { on, output, group, message }: Thing, key: number): Thing {
  const { channel, note, velocity, velocityFrom = 'fixed' } = message as { channel: number; note: number; velocity: number; velocityFrom?: string };
  return {
    id,
    name,
    on,
    stream,
    output,
    layout: { kind: 'poly', channel, voices: VOICES, steal: 'oldest' },
    pitch: { transpose: note - key, bends: false },
    strike: { shaping: {}, range: [velocityFrom === 'fixed' ? velocity : 0, velocity] },
    ...(group === undefined ? {} : { group }),
  };
}

function free(wanted: string, taken: Set<unknown>): string {
  const stem = wanted.slice(0, 50);
  let id = stem;
  for (let n = 2; taken.has(id); n++) id = `${stem}-${n}`;
  taken.add(id);
  return id;
}
