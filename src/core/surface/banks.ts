import { keepOrCountOn } from '../ledger/countOn';
import type { RigControl, RigMapping, RigSignal, RigSurface } from '../rig/document';
import type { Change } from '../rig/edit';
import { mappingIds } from '../rig/find';
import { freeId } from '../rig/naming';
import { removeSignals } from '../rig/remove';
import { flatControls } from './controlKinds';
import { withControls } from './controls';
import type { Workbench } from './workbench';

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
  const takenMappings = mappingIds(bench.rig);
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
      const copy: RigMapping = { ...mapping, id: freeId(name, takenMappings), name, signal: to };
      const message = keepOrCountOn(bench.rig, copy);
      if (message) bench.put({ list: 'mappings', id: copy.id, to: { ...copy, message } });
    }
  }
}
