import { keepOrCountOn } from '../ledger/countOn';
import type { RigControl, RigDocument, RigMapping, RigSignal } from '../rig/document';
import type { Change } from '../rig/edit';
import type { RigStream, RigVoiceMapping } from '../rig/voices';
import { linkKey, linkKeys, relink, relinkControl, type Follow } from '../rig/links';
import { mappingIds, streamIds } from '../rig/find';
import { freeId } from '../rig/naming';
import { remove, removeSignals } from '../rig/remove';
import { bounds, repeatOffsets } from './arrange';
import { fillBanks } from './banks';
import { freeChannel } from '../voices/freshVoiceMapping';
import { channelsOf } from '../voices/layout';
import { voicesThroughOutput } from '../voices/throughOutput';
import { CONTROL_KINDS, everySignal, flatControls, streamOf } from './controlKinds';
import { calledBy, controlIds, controlsAt, outputFor, putControls, type Spot } from './make';
import type { Workbench } from './workbench';

/** Controls with all that they are made of, apart from any rig: what is copied and pasted. */
export interface Clip {
  controls: RigControl[];
  signals: RigSignal[];
  mappings: RigMapping[];
  streams: RigStream[];
  voiceMappings: RigVoiceMapping[];
}

/** Controls of a rig with their signals and mappings. */
export function clipOf(rig: RigDocument, controls: readonly RigControl[]): Clip {
  const ids = new Set(flatControls(controls).flatMap(everySignal));
  const streams = new Set(flatControls(controls).flatMap((control) => streamOf(control) ?? []));
  return {
    controls: [...controls],
    signals: rig.signals.filter(({ id }) => ids.has(id)),
    mappings: rig.mappings.filter(({ signal }) => ids.has(signal)),
    streams: rig.streams.filter(({ id }) => streams.has(id)),
    voiceMappings: rig.voiceMappings.filter(({ stream }) => streams.has(stream)),
  };
}

export interface Pasted {
  ids: string[];
  /** Copies of mappings that were left out because every number is in use. */
  without: number;
}

/**
 * Lays a clip onto a spot, moved by an offset: everything under ids of its own, labels counting on, numbers kept where
 * nothing uses them and counting on to the next free ones where something does.
 */
export function pasteClip(bench: Workbench, spot: Spot, clip: Clip, { dx, dy }: { dx: number; dy: number }): Pasted {
  const surface = bench.surface(spot.surface);
  const input = bench.inputOf(surface);
  const ids = controlIds(surface);
  const signalIds = new Set([...bench.rig.signals, ...bench.rig.derived].map(({ id }) => id));
  const labels = new Set(surface.pages.flatMap(({ controls }) => flatControls(controls)).map(({ label }) => label));
  const groups = new Map<string, string>();
  const usedGroups = new Set(surface.pages.flatMap(({ controls }) => flatControls(controls)).flatMap(({ group }) => (group === undefined ? [] : [group])));
  const signals = new Map<string, { id: string; from: string; to: string }>();
  const takenStreams = streamIds(bench.rig);
  const streams = new Map<string, { id: string; from: string; to: string }>();

  const copied = (control: RigControl): RigControl => {
    const label = countedLabel(control.label, labels);
    labels.add(label);
    const id = freeId(label || CONTROL_KINDS[control.kind].name, ids);
    const set = (of: Record<string, string>) =>
      Object.fromEntries(
        Object.entries(of).map(([role, signal]) => {
          const made = freeId([input, id, role === 'value' || role === 'gate' ? '' : role].filter(Boolean).join('.'), signalIds);
          signals.set(signal, { id: made, from: calledBy(control), to: calledBy({ ...control, id, label }) });
          return [role, made];
        }),
      );
    const { group, banks = [], ...rest } = control;
    // A surface with fewer banks takes the first ones; one with more gets the others below.
    const fitting = banks.slice(0, Math.max(0, (surface.banks?.length ?? 0) - 1));
    const copy = { ...rest, id, label, signals: set(control.signals), ...(fitting.length > 0 ? { banks: fitting.map(set) } : {}) } as RigControl;
    const stream = streamOf(control);
    if (stream !== null) {
      const made = { id: freeId(`${input}.${id}`, takenStreams), from: calledBy(control), to: calledBy(copy) };
      streams.set(stream, made);
      (copy as { stream: string }).stream = made.id;
    }
    if (group !== undefined) copy.group = groups.get(group) ?? groups.set(group, freeId(group, usedGroups)).get(group)!;
    if (copy.kind === 'fold') return { ...copy, panel: { ...copy.panel, x: copy.panel.x + dx, y: copy.panel.y + dy }, controls: copy.controls.map(copied) };
    return forgetStrangers(bench.rig, spot.surface, copy);
  };
  const controls = clip.controls.map((control): RigControl => {
    const copy = copied(control);
    return { ...copy, frame: { ...control.frame, x: control.frame.x + dx, y: control.frame.y + dy } };
  });

  const renamed = (name: string, { from, to }: { from: string; to: string }) => (name.startsWith(from) ? `${to}${name.slice(from.length)}` : name);
  const made = clip.signals.flatMap((signal): RigSignal[] => {
    const of = signals.get(signal.id);
    if (!of) return [];
    const copy = relink('signals', signal, (kind, id) => (kind === 'input' ? input : (signals.get(id)?.id ?? null)))!;
    return [{ ...copy, id: of.id, name: renamed(signal.name, of) }];
  });
  const madeStreams = clip.streams.flatMap((stream): Change[] => {
    const of = streams.get(stream.id);
    return of ? [{ list: 'streams', id: of.id, to: { ...stream, id: of.id, input, name: renamed(stream.name, of) } }] : [];
  });
  const now = bench.surface(spot.surface);
  bench.put(...made.map((signal): Change => ({ list: 'signals', id: signal.id, to: signal })), ...madeStreams, { list: 'surfaces', id: now.id, to: putControls(now, spot, [...controlsAt(now, spot), ...controls]) });

  let without = 0;
  const takenMappings = mappingIds(bench.rig);
  const copiedMappings = new Map(clip.mappings.map(({ id, name, signal }) => [id, freeId(renamed(name, signals.get(signal) ?? { from: '', to: '' }), takenMappings)]));
  for (const mapping of clip.mappings) {
    const of = signals.get(mapping.signal);
    if (!of) continue;
    const there = linkKeys(bench.rig);
    const follow: Follow = (kind, id) => {
      const known = kind === 'signal' ? signals.get(id)?.id : kind === 'mapping' ? copiedMappings.get(id) : undefined;
      const to = known !== undefined && there.has(linkKey(kind, known)) ? known : there.has(linkKey(kind, id)) ? id : null;
      return to ?? (kind === 'output' ? (outputFor(bench.rig, input) ?? null) : null);
    };
    const linked = relink('mappings', mapping, follow);
    const copy = linked && { ...linked, id: copiedMappings.get(mapping.id)!, name: renamed(mapping.name, of) };
    const message = copy && keepOrCountOn(bench.rig, copy);
    if (message) bench.put({ list: 'mappings', id: copy.id, to: { ...copy, message } });
    else without++;
  }
  for (const mapping of clip.voiceMappings) pasteVoices(bench, input, mapping, streams.get(mapping.stream));
  fillBanks(bench, bench.surface(spot.surface));
  return { ids: controls.map(({ id }) => id), without };
}

/** A voice mapping of a stream that was copied: on a channel that is free where it has one alone; a zone is shared, as hands share it. */
function pasteVoices(bench: Workbench, input: string, mapping: RigVoiceMapping, of: { id: string; from: string; to: string } | undefined): void {
  const { rig } = bench;
  const output = rig.outputs.some(({ id }) => id === mapping.output) ? mapping.output : outputFor(rig, input);
  if (!of || output === undefined) return;
  const { layout } = mapping;
  const [channel] = channelsOf(layout);
  const taken = rig.voiceMappings.some((other) => other.output === output && channelsOf(other.layout).includes(channel!));
  const id = freeId(`${of.id}.notes`, mappingIds(rig));
  const scales = new Set(rig.scales.map((scale) => scale.id));
  const copy = relink('voiceMappings', mapping, (kind, target) => (kind === 'stream' ? of.id : kind === 'output' ? output : scales.has(target) ? target : null));
  if (!copy) return;
  const name = mapping.name.startsWith(of.from) ? `${of.to}${mapping.name.slice(of.from.length)}` : mapping.name;
  const placed = { ...copy, id, name, layout: 'channel' in layout && taken ? { ...layout, channel: freeChannel(rig, output) } : layout };
  bench.put({ list: 'voiceMappings', id, to: voicesThroughOutput(rig, placed, output) });
}

/** Repeats controls across and down. */
export function repeatControls(bench: Workbench, spot: Spot, ids: readonly string[], across: number, down: number, gapX: number, gapY: number): Pasted {
  const chosen = controlsAt(bench.surface(spot.surface), spot).filter(({ id }) => ids.includes(id));
  const around = bounds(chosen.map(({ frame }) => frame));
  if (!around) return { ids: [], without: 0 };
  const clip = clipOf(bench.rig, chosen);
  const all: Pasted = { ids: [...ids], without: 0 };
  for (const offset of repeatOffsets(around, across, down, gapX, gapY)) {
    const pasted = pasteClip(bench, spot, clip, offset);
    all.ids.push(...pasted.ids);
    all.without += pasted.without;
  }
  return all;
}

/** Takes controls away with their signals and mappings. */
export function removeControls(bench: Workbench, spot: Spot, ids: readonly string[]): void {
  const surface = bench.surface(spot.surface);
  const controls = controlsAt(surface, spot);
  const gone = controls.filter(({ id }) => ids.includes(id));
  bench.put({ list: 'surfaces', id: surface.id, to: putControls(surface, spot, controls.filter((control) => !gone.includes(control))) });
  bench.put(...removeSignals(bench.rig, flatControls(gone).flatMap(everySignal)));
  bench.put(...remove(bench.rig, flatControls(gone).flatMap((control) => streamOf(control) ?? []).map((id) => ({ kind: 'stream', id }))));
}

/** `Fog` becomes `Fog 2`, `Lamp 3` the next of the lamps that is free; no label stays none. */
export function countedLabel(label: string, taken: ReadonlySet<string>): string {
  if (label === '' || !taken.has(label)) return label;
  const [, stem, number] = /^(.*?)\s*(\d+)$/.exec(label) ?? [undefined, label, '1'];
  for (let n = Number(number) + 1; ; n++) {
    const next = `${stem} ${n}`.trim();
    if (!taken.has(next)) return next;
  }
}

/** A page, a scene or a signal that is shown may be of the rig or surface it was copied from alone; its own signals are to come. */
function forgetStrangers(rig: RigDocument, surfaceId: string, control: RigControl): RigControl {
  const there = linkKeys(rig);
  return relinkControl(control, surfaceId, (kind, id, at, surface) => (/^(signals|banks|stream)\b/.test(at) || there.has(linkKey(kind, id, surface)) ? id : null))!;
}
