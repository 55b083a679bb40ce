import type { RigControl, RigDocument, RigSurface, SignalUnit } from '../rig/document';
import { whereInWords } from '../mapping/either';
import { flatControls, rolesOf, signalsInBank, streamOf, surfaceSignals } from './controlKinds';
import { addressInWords } from '../messages';

/** By control that has no label: the message of its first mapped signal in a bank, or where its voices go, in words. Where it sends nothing there is none. */
export function captionsOf(rig: RigDocument, surface: RigSurface, bank = 0): Record<string, string> {
  const messages = new Map(rig.mappings.map(({ signal, message }) => [signal, message]).reverse() as [string, (typeof rig.mappings)[number]['message']][]);
  const caption = (control: RigControl): string | undefined => {
    const scene = control.kind === 'scene' ? rig.scenes.find(({ id }) => id === control.scene)?.name : undefined;
    if (scene !== undefined) return scene;
    const source = 'shows' in control ? control.shows : rolesOf(control).map(({ role }) => signalsInBank(control, bank)[role]!).find((signal) => messages.has(signal));
    const message = typeof source === 'string' ? messages.get(source) : undefined;
    const played = streamOf(control);
    const voices = rig.voiceMappings.find(({ stream }) => stream === played);
    // Short, for there is little room: `ch 3 · CC 21`.
    return (message ? addressInWords(message) : voices && whereInWords(voices))?.replace('channel ', 'ch ');
  };
  const unnamed = surface.pages.flatMap(({ controls }) => flatControls(controls)).filter(({ label }) => label === '');
  return Object.fromEntries(unnamed.flatMap((control) => {
    const words = caption(control);
    return words === undefined ? [] : [[control.id, words]];
  }));
}

/** The captions of each bank; a surface without banks has one set. */
export function captionsOfBanks(rig: RigDocument, surface: RigSurface): Record<string, string>[] {
  return (surface.banks ?? ['']).map((_, bank) => captionsOf(rig, surface, bank));
}

/** What a number of a signal means: its unit and the ends of its range. */
export interface Scale {
  unit: SignalUnit;
  lo: number;
  hi: number;
}

/** The scales of the signals that a surface shows, by id. */
export function scalesOf(rig: RigDocument, surface: RigSurface): Record<string, Scale> {
  const shown = new Set(surfaceSignals(surface).shows);
  const signals = [...rig.signals, ...rig.derived].filter(({ id }) => shown.has(id));
  return Object.fromEntries(signals.map(({ id, unit, range: [lo, hi] }): [string, Scale] => [id, { unit, lo, hi }]));
}
