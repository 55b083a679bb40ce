import { keepOrCountOn } from '../ledger/countOn';
import { FREE_FIRST } from '../ledger/ledger';
import { addMapping, proposeMessages, type Proposal } from '../ledger/propose';
import type { ControlKind, Frame, RigControl, RigDocument, RigSignal, RigSurface } from '../rig/document';
import type { Change } from '../rig/edit';
import { streamIds } from '../rig/find';
import { freeId } from '../rig/naming';
import { keepInside } from './arrange';
import { fillBanks } from './banks';
import { freeChannel, freshVoiceMapping } from '../voices/freshVoiceMapping';
import { CONTROL_KINDS, everySignal, flatControls, NEW_STREAM, plainControl, rolesOf, streamOf, type Role } from './controlKinds';
import type { Workbench } from './workbench';
import type { MessageSpec } from '../messages';
import { firstTaking, outputsTaking } from '../rig/outputs';

/** Where a control lies: on a page, or in a fold-out on one. */
export interface Spot {
  surface: string;
  page: string;
  fold?: string;
}

/** Springs go home within this, unless told otherwise. */
const RETURN_MS = 120;

/** What a control is called in lists and in the names of its signals: its label, or its kind with its number. */
export function calledBy({ label, id, kind }: Pick<RigControl, 'label' | 'id' | 'kind'>): string {
  return label || `${CONTROL_KINDS[kind].name} ${/\d+$/.exec(id)?.[0] ?? ''}`.trim();
}

/** The controls at a spot. */
export function controlsAt(surface: RigSurface, { page, fold }: Spot): RigControl[] {
  const controls = surface.pages.find(({ id }) => id === page)?.controls ?? [];
  if (fold === undefined) return controls;
  const found = controls.find(({ id }) => id === fold);
  return found?.kind === 'fold' ? found.controls : [];
}

/** The surface with other controls at a spot. */
export function putControls(surface: RigSurface, { page, fold }: Spot, put: readonly RigControl[]): RigSurface {
  // What a fold-out lays over the page stays on the surface, wherever its tab goes.
  const controls = put.map((control) => (control.kind === 'fold' ? { ...control, panel: keepInside(control.panel, surface) } : control));
  const pages = surface.pages.map((candidate) => {
    if (candidate.id !== page) return candidate;
    if (fold === undefined) return { ...candidate, controls };
    return { ...candidate, controls: candidate.controls.map((control) => (control.id === fold && control.kind === 'fold' ? { ...control, controls } : control)) };
  });
  return { ...surface, pages };
}

/** Everything whose id a control of this surface must not have. */
export const controlIds = (surface: RigSurface): Set<string> => new Set(surface.pages.flatMap(({ controls }) => flatControls(controls)).map(({ id }) => id));

/** A new control of a kind at a spot, with its signals and, for what it is about, its mappings to the next free numbers. */
export function makeControl(bench: Workbench, spot: Spot, kind: ControlKind, frame: Frame, { label, message }: { label?: string; message?: MessageSpec } = {}): string {
  const surface = bench.surface(spot.surface);
  const id = freeId(label ?? CONTROL_KINDS[kind].name, controlIds(surface));
  // Without a label it shows what it sends; what sends nothing by itself needs words.
  const plain = plainControl(kind, id, label ?? (kind === 'label' || kind === 'fold' ? CONTROL_KINDS[kind].name : ''), frame);
  const control = withSignals(bench, surface, plain);
  const now = bench.surface(spot.surface);
  bench.put({ list: 'surfaces', id: now.id, to: putControls(now, spot, [...controlsAt(now, spot), control]) });
  mapStream(bench, control);
  for (const role of rolesOf(control)) {
    if (message) mapTo(bench, control, role, message);
    else if (!role.touch) mapRole(bench, control, role);
  }
  fillBanks(bench, bench.surface(spot.surface));
  return id;
}

/** A control with a signal for each of its roles that has none, and a stream where it is to have one; those that it has no more are taken away. */
export function withSignals(bench: Workbench, surface: RigSurface, control: RigControl): RigControl {
  const input = bench.inputOf(surface);
  const wanted = rolesOf(control);
  const signals: Record<string, string> = {};
  const made: RigSignal[] = [];
  const taken = new Set([...bench.rig.signals, ...bench.rig.derived].map(({ id }) => id));
  for (const role of wanted) signals[role.role] = control.signals[role.role] ?? freeId([input, control.id, role.suffix].filter(Boolean).join('.'), taken);
  for (const role of wanted) if (control.signals[role.role] === undefined) made.push(signalOf(input, control, role, signals));
  if (made.length > 0) bench.put(...made.map((signal): Change => ({ list: 'signals', id: signal.id, to: signal })));
  return { ...withStream(bench, input, control), signals };
}

function withStream(bench: Workbench, input: string, control: RigControl): RigControl {
  if (streamOf(control) !== NEW_STREAM) return control;
  const id = freeId(`${input}.${control.id}`, streamIds(bench.rig));
  bench.put({ list: 'streams', id, to: { id, name: calledBy(control), input } });
  return { ...control, stream: id } as RigControl;
}

/** Gives the stream of a control that no voice mapping plays one; false where no output can take it. */
export function mapStream(bench: Workbench, control: RigControl): boolean {
  const { rig } = bench;
  const stream = rig.streams.find(({ id }) => id === streamOf(control));
  if (!stream || rig.voiceMappings.some((mapping) => mapping.stream === stream.id)) return false;
  const output = outputFor(rig, stream.input);
  if (output === undefined) return false;
  bench.put(freshVoiceMapping(rig, stream, output, control.kind === 'pitchField').change);
  return true;
}

function signalOf(input: string, control: RigControl, { role, kind, suffix, rest, period }: Role, signals: Record<string, string>): RigSignal {
  const tail = /\d*$/.exec(role)![0];
  const axis = role.startsWith('x') ? `y${tail}` : role.startsWith('y') ? `x${tail}` : null;
  const called = calledBy(control);
  return {
    id: signals[role]!,
    name: suffix ? `${called} ${suffix}` : called,
    input,
    kind,
    unit: 'unit',
    range: [0, 1],
    ...(rest === undefined ? {} : { rest }),
    ...(period === undefined ? {} : { period }),
    ...(control.kind === 'xy' && axis !== null ? { pair: signals[axis]! } : {}),
    ...(control.kind === 'strip' && role === 'value' ? { returns: { to: 0.5, overMs: RETURN_MS, released: signals.touch! } } : {}),
  };
}

/** Maps a signal of a control to what makes sense for it and nothing else uses. False where nothing is free. */
export function mapRole(bench: Workbench, control: RigControl, role: Role): boolean {
  const { rig } = bench;
  const signal = rig.signals.find(({ id }) => id === control.signals[role.role]);
  const output = signal && outputFor(rig, signal.input);
  if (!signal || output === undefined) return false;
  const proposals = proposeMessages(rig, signal, output);
  if (role.note !== undefined) {
    const channel = channelOfKeys(rig, control, output);
    bench.put(addMapping(rig, signal, output, { kind: 'note', channel, note: role.note, velocity: 127, velocityFrom: 'strength' }).change);
    return true;
  }
  const of = (kind: Proposal['kind']) => proposals.find((proposal) => proposal.kind === kind)?.message;
  const message = (role.kind === 'gate' ? of('note') : control.kind === 'strip' ? of('bend') : undefined) ?? of('controller') ?? nextController(rig, signal.id, output);
  if (!message) return false;
  if (control.kind === 'dial' && control.endless && message.kind === 'controlChange') {
    bench.put(addMapping(rig, signal, output, { kind: 'relative', channel: message.channel, controller: message.controller, encoding: 'signedBit', steps: 128, most: 8 }).change);
  } else if (control.kind === 'pads' && message.kind === 'note') {
    bench.put(addMapping(rig, signal, output, { ...message, velocity: 127, velocityFrom: 'strength' }).change);
  } else bench.put(addMapping(rig, signal, output, message).change);
  return true;
}

/** A controller of another channel, where that of the surface has none left; null where none has. */
function nextController(rig: RigDocument, signal: string, output: string): MessageSpec | null {
  return keepOrCountOn(rig, { id: 'wanted', name: '', on: true, signal, shaping: {}, output, message: { kind: 'controlChange', channel: 1, controller: FREE_FIRST[0]!, range: [0, 127] } });
}

/** Maps a signal of a control to a message that is known. */
function mapTo(bench: Workbench, control: RigControl, role: Role, message: MessageSpec): void {
  const { rig } = bench;
  const signal = rig.signals.find(({ id }) => id === control.signals[role.role]);
  const output = signal && outputFor(rig, signal.input);
  if (signal && output !== undefined) bench.put(addMapping(rig, signal, output, message).change);
}

/** The MIDI output that most mappings of an input go to, else the first of the rig. */
export function outputFor(rig: RigDocument, input: string): string | undefined {
  const own = new Set(rig.signals.flatMap((signal) => (signal.input === input ? [signal.id] : [])));
  const possible = new Set(outputsTaking(rig, 'midi').map(({ id }) => id));
  const counts = new Map<string, number>();
  for (const { signal, output } of rig.mappings) if (own.has(signal) && possible.has(output)) counts.set(output, (counts.get(output) ?? 0) + 1);
  const streams = new Set(rig.streams.flatMap((stream) => (stream.input === input ? [stream.id] : [])));
  for (const { stream, output } of rig.voiceMappings) if (streams.has(stream) && possible.has(output)) counts.set(output, (counts.get(output) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? firstTaking(rig, 'midi')?.id;
}

/** Keys play a channel of their own: the one that they have, else the first without notes. */
function channelOfKeys(rig: RigDocument, control: RigControl, output: string): number {
  const own = new Set(everySignal(control));
  for (const { signal, message } of rig.mappings) if (own.has(signal) && message.kind === 'note') return message.channel;
  return freeChannel(rig, output);
}
