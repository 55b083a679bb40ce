import type { RigControl } from '../rig/document';
import type { Change } from '../rig/edit';
import { remove, removeSignals } from '../rig/remove';
import { fillBanks } from './banks';
import { everySignal, rolesOf, streamOf } from './controlKinds';
import { calledBy, controlsAt, mapRole, mapStream, putControls, withSignals, type Spot } from './make';
import type { Workbench } from './workbench';

/**
 * Puts a control in the place of the one of its id. What it has more signals for gets them, mapped to free numbers; what
 * it has no more goes with its mappings. Under a new label, signals and mappings that were named after the old one follow.
 */
export function changeControl(bench: Workbench, spot: Spot, to: RigControl): void {
  const before = controlsAt(bench.surface(spot.surface), spot).find(({ id }) => id === to.id);
  if (!before) return;
  const control = withSignals(bench, bench.surface(spot.surface), to);
  const roles = new Set(rolesOf(control).map(({ role }) => role));
  const kept = control.banks?.map((set) => Object.fromEntries(Object.entries(set).filter(([role]) => roles.has(role))));
  const whole: RigControl = kept ? { ...control, banks: kept } : control;
  const surface = bench.surface(spot.surface);
  bench.put({ list: 'surfaces', id: surface.id, to: putControls(surface, spot, controlsAt(surface, spot).map((other) => (other.id === to.id ? whole : other))) });
  // What it sent as voices is free for what takes its place.
  const stream = streamOf(before);
  if (stream !== null && stream !== streamOf(whole)) bench.put(...remove(bench.rig, [{ kind: 'stream', id: stream }]));
  mapStream(bench, whole);
  for (const role of rolesOf(whole)) if (!role.touch && before.signals[role.role] !== whole.signals[role.role]) mapRole(bench, whole, role);
  const gone = everySignal(before).filter((signal) => !everySignal(whole).includes(signal));
  if (gone.length > 0) bench.put(...removeSignals(bench.rig, gone));
  fillBanks(bench, bench.surface(spot.surface));
  if (before.label !== to.label) renameAfter(bench, everySignal(whole), streamOf(whole), calledBy(before), calledBy(whole));
}

function renameAfter(bench: Workbench, ids: readonly string[], ownStream: string | null, from: string, to: string): void {
  const named = (name: string) => (name === from || name.startsWith(`${from} `) ? `${to}${name.slice(from.length)}` : name);
  const signals = bench.rig.signals.filter(({ id, name }) => ids.includes(id) && named(name) !== name);
  const mappings = bench.rig.mappings.filter(({ signal, name }) => ids.includes(signal) && named(name) !== name);
  const streams = bench.rig.streams.filter(({ id, name }) => id === ownStream && named(name) !== name);
  const voices = bench.rig.voiceMappings.filter(({ stream, name }) => stream === ownStream && named(name) !== name);
  const changes: Change[] = [
    ...streams.map((stream): Change => ({ list: 'streams', id: stream.id, to: { ...stream, name: named(stream.name) } })),
    ...voices.map((mapping): Change => ({ list: 'voiceMappings', id: mapping.id, to: { ...mapping, name: named(mapping.name) } })),
    ...signals.map((signal): Change => ({ list: 'signals', id: signal.id, to: { ...signal, name: named(signal.name) } })),
    ...mappings.map((mapping): Change => ({ list: 'mappings', id: mapping.id, to: { ...mapping, name: named(mapping.name) } })),
  ];
  if (changes.length > 0) bench.put(...changes);
}
