import { keepOrCountOn } from '../ledger/countOn';
import type { RigControl, RigMapping, RigSignal, RigSurface } from '../rig/document';
import type { Change } from '../rig/edit';
import { freeId } from '../rig/naming';
import { removeSignals } from '../rig/removeSignals';
import { everySignal, flatControls, rolesOf } from './controlKinds';
import { withControls } from './controls';
import { calledBy, controlsAt, mapRole, putControls, withSignals, type Spot, type Workbench } from './make';

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
  for (const role of rolesOf(whole)) if (!role.touch && before.signals[role.role] !== whole.signals[role.role]) mapRole(bench, whole, role);
  const gone = everySignal(before).filter((signal) => !everySignal(whole).includes(signal));
  if (gone.length > 0) bench.put(...removeSignals(bench.rig, gone));
  if (whole.banks) fillBanks(bench, bench.surface(spot.surface));
  if (before.label !== to.label) renameAfter(bench, everySignal(whole), calledBy(before), calledBy(whole));
}

function renameAfter(bench: Workbench, ids: readonly string[], from: string, to: string): void {
  const named = (name: string) => (name === from || name.startsWith(`${from} `) ? `${to}${name.slice(from.length)}` : name);
  const signals = bench.rig.signals.filter(({ id, name }) => ids.includes(id) && named(name) !== name);
  const mappings = bench.rig.mappings.filter(({ signal, name }) => ids.includes(signal) && named(name) !== name);
  const changes: Change[] = [
    ...signals.map((signal): Change => ({ list: 'signals', id: signal.id, to: { ...signal, name: named(signal.name) } })),
    ...mappings.map((mapping): Change => ({ list: 'mappings', id: mapping.id, to: { ...mapping, name: named(mapping.name) } })),
  ];
  if (changes.length > 0) bench.put(...changes);
}

/**
 * Gives a surface these banks: every control of it gets signals and mappings for each, numbers counting on. Banks that are
 * there no more go with theirs; fewer than two are none.
 */
export function setBanks(bench: Workbench, surfaceId: string, names: readonly string[]): void {
  const surface = bench.surface(surfaceId);
  const more = names.length < 2 ? 0 : names.length - 1;
  const gone = surface.pages
    .flatMap(({ controls }) => flatControls(controls))
    .flatMap(({ banks = [] }) => banks.slice(more))
    .flatMap((set) => Object.values(set));
  const next = withControls(surface, (control) => {
    const { banks, ...plain } = control;
    if (!banks) return control;
    return more === 0 ? (plain as RigControl) : { ...control, banks: banks.slice(0, more) };
  });
  const to: RigSurface = { ...next, banks: [...names] };
  if (more === 0) delete to.banks;
  bench.put({ list: 'surfaces', id: surfaceId, to });
  if (gone.length > 0) bench.put(...removeSignals(bench.rig, gone));
  fillBanks(bench, bench.surface(surfaceId));
}

/** Makes the signals and mappings of banks that controls have none for yet. */
export function fillBanks(bench: Workbench, surface: RigSurface): void {
  const names = surface.banks ?? [];
  const taken = new Set([...bench.rig.signals, ...bench.rig.derived].map(({ id }) => id));
  const mappingIds = new Set(bench.rig.mappings.map(({ id }) => id));
  const signals: RigSignal[] = [];
  const copies: { of: string; to: string; bank: string }[] = [];
  const next = withControls(surface, (control) => {
    const roles = Object.keys(control.signals);
    if (roles.length === 0 || names.length < 2) return control;
    let changed = false;
    const banks = names.slice(1).map((bank, i) => {
      const set: Record<string, string> = { ...control.banks?.[i] };
      const missing = roles.filter((role) => set[role] === undefined);
      for (const role of missing) set[role] = freeId(`${control.signals[role]}.bank${i + 2}`, taken);
      for (const role of missing) {
        const original = bench.rig.signals.find(({ id }) => id === control.signals[role])!;
        const inSet = (id: string) => set[Object.keys(control.signals).find((other) => control.signals[other] === id) ?? ''] ?? id;
        signals.push({
          ...original,
          id: set[role]!,
          name: `${original.name} (${bank})`.slice(0, 80),
          ...(original.pair === undefined ? {} : { pair: inSet(original.pair) }),
          ...(original.returns ? { returns: { ...original.returns, released: inSet(original.returns.released) } } : {}),
        });
        copies.push({ of: original.id, to: set[role]!, bank });
      }
      changed ||= missing.length > 0;
      return set;
    });
    return changed ? { ...control, banks } : control;
  });
  if (next === surface) return;
  bench.put(...signals.map((signal): Change => ({ list: 'signals', id: signal.id, to: signal })), { list: 'surfaces', id: surface.id, to: next });
  for (const { of, to, bank } of copies) {
    for (const mapping of bench.rig.mappings.filter(({ signal }) => signal === of)) {
      const name = `${mapping.name} (${bank})`.slice(0, 80);
      const copy: RigMapping = { ...mapping, id: freeId(name, mappingIds), name, signal: to };
      const message = keepOrCountOn(bench.rig, copy);
      if (message) bench.put({ list: 'mappings', id: copy.id, to: { ...copy, message } });
    }
  }
}
