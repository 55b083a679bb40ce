import { makeControl } from '../../src/core/surface/make';
import { Workbench } from '../../src/core/surface/workbench';
import { makeSurface } from '../../src/core/surface/starters';
import { setBanks } from '../../src/core/surface/banks';
import { changeControl } from '../../src/core/surface/change';
import type { ControlKind, Frame, RigControl, RigDocument } from '../../src/core/rig/document';
import type { Pumice } from './pumice';

export const TABLET = { width: 1180, height: 820 };
export const DECK = { surface: 'foredeck', page: 'first' };

export interface Wanted {
  kind: ControlKind;
  frame: Frame;
  label?: string;
  set?: object;
}

/** Makes a surface Foredeck with these controls in the open rig, as the designer does; gives the rig that came of it. */
export async function withForedeck(pumice: Pumice, wanted: readonly Wanted[], banks: string[] = [], pageStrip = false): Promise<RigDocument> {
  const { document } = await pumice.playing();
  const bench = new Workbench(document);
  makeSurface(bench, 'Foredeck', TABLET, 'empty');
  for (const { kind, frame, label, set } of wanted) {
    const id = makeControl(bench, DECK, kind, frame, label === undefined ? {} : { label });
    const made = bench.surface('foredeck').pages[0]!.controls.find((control) => control.id === id)!;
    if (set) changeControl(bench, DECK, { ...made, ...set } as RigControl);
  }
  // Without the strip a pixel of the surface is one of the window, however many pages come.
  if (!pageStrip) bench.put({ list: 'surfaces', id: 'foredeck', to: { ...bench.surface('foredeck'), pageStrip } });
  if (banks.length > 0) setBanks(bench, 'foredeck', banks);
  const { status } = await pumice.give({ kind: 'change', changes: bench.squeezed });
  if (status !== 200) throw new Error(`the edit was refused with ${status}`);
  return bench.rig;
}
