import { describe, expect, it } from 'vitest';
import { ledgerOf } from '../../core/ledger/ledger';
import { testRig } from '../../core/engine/testRig';
import type { ControlKind, ControlOf, RigDocument } from '../../core/rig/document';
import { applyEdit } from '../../core/rig/edit';
import { kitOf } from '../../core/rig/kit';
import { removeInput } from '../../core/rig/remove';
import { captionsOf, scalesOf } from '../../core/surface/captions';
import { setBanks } from '../../core/surface/banks';
import { changeControl } from '../../core/surface/change';
import { CONTROL_KINDS, flatControls, rolesOf, surfaceSignals } from '../../core/surface/controlKinds';
import { clipOf, countedLabel, pasteClip, removeControls, repeatControls } from '../../core/surface/copy';
import { controlsAt, makeControl } from '../../core/surface/make';
import { Workbench } from '../../core/surface/workbench';
import { DEVICE_SIZES, makeSurface, STARTERS } from '../../core/surface/starters';
import { checkRig } from './index';

const SPOT = { surface: 'foredeck', page: 'first' };
const FRAME = { x: 20, y: 20, width: 200, height: 200 };

function freshDeck(starter: (typeof STARTERS)[number] = 'empty'): Workbench {
  const bench = new Workbench(testRig([{}]));
  makeSurface(bench, 'Foredeck', { width: 1180, height: 820 }, starter);
  return bench;
}

/** The rig that the whole edit gives, which must be good and without a clash. */
function checked(bench: Workbench, before = testRig([{}])): RigDocument {
  const applied = applyEdit(before, { kind: 'change', changes: bench.squeezed });
  if (!applied.ok) throw new Error(applied.message);
  expect(applied.document).toEqual(bench.rig);
  const result = checkRig(JSON.parse(JSON.stringify(applied.document)));
  expect(result.ok ? [] : result.problems).toEqual([]);
  expect(ledgerOf(applied.document).clashes).toEqual([]);
  const undone = applyEdit(applied.document, applied.inverse);
  expect(undone.ok && JSON.stringify(undone.document)).toBe(JSON.stringify(before));
  return applied.document;
}

const foredeck = (rig: RigDocument) => rig.surfaces.find(({ id }) => id === 'foredeck')!;
const messages = (rig: RigDocument, id: string) => {
  const control = flatControls(foredeck(rig).pages[0]!.controls).find((one) => one.id === id)!;
  return rolesOf(control).flatMap(({ role }) => rig.mappings.filter(({ signal }) => signal === control.signals[role]).map(({ message }) => message));
};

describe('a control that is made', () => {
  it.each(Object.keys(CONTROL_KINDS) as ControlKind[])('%s: has its signals, and mappings that clash with nothing', (kind) => {
    const bench = freshDeck();
    makeControl(bench, SPOT, kind, FRAME);
    makeControl(bench, SPOT, kind, FRAME);
    const rig = checked(bench);
    const [first, second] = foredeck(rig).pages[0]!.controls;
    expect(Object.keys(first!.signals)).toEqual(rolesOf(first!).map(({ role }) => role));
    const sounding = rolesOf(first!).filter(({ touch }) => !touch).length;
    expect(messages(rig, second!.id)).toHaveLength(sounding);
  });
  it('gets the message that makes sense for it', () => {
    const bench = freshDeck();
    for (const kind of ['strip', 'push', 'keys', 'dial'] as const) makeControl(bench, SPOT, kind, FRAME);
    const rig = checked(bench);
    // A bend in steps needs no unit.
    expect(messages(rig, 'strip')).toEqual([{ kind: 'pitchBend', channel: 3, range: [0, 16383] }]);
    expect(messages(rig, 'button')).toMatchObject([{ kind: 'note' }]);
    expect(rig.voiceMappings).toMatchObject([{ stream: 'foredeck.keys', layout: { kind: 'poly' }, pitch: { transpose: 0, bends: false } }]);
    expect(rig.signals.find(({ id }) => id === 'foredeck.strip')?.returns).toEqual({ to: 0.5, overMs: 120, released: 'foredeck.strip.touch' });
    expect(rig.signals.find(({ id }) => id === 'foredeck.dial')?.name).toBe('Dial');
  });
  it('keeps to controllers where its channel is full, and goes to the next one', () => {
    const bench = freshDeck();
    for (let i = 0; i < 50; i++) makeControl(bench, SPOT, 'fader', FRAME);
    const kinds = checked(bench).mappings.map(({ message }) => message.kind);
    expect(new Set(kinds)).toEqual(new Set(['controlChange']));
  });
  it('in a fold-out is as good as any', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'fold', FRAME);
    makeControl(bench, { ...SPOT, fold: 'fold-out' }, 'fader', FRAME);
    const rig = checked(bench);
    expect(surfaceSignals(foredeck(rig)).plays).toEqual(['foredeck.fader', 'foredeck.fader.touch']);
    expect(controlsAt(foredeck(rig), { ...SPOT, fold: 'fold-out' })).toHaveLength(1);
  });
});

describe('a starter', () => {
  it.each(STARTERS.flatMap((starter) => [[starter, true], [starter, false]] as const))('%s, lying %s: lies within its device, on numbers of its own', (starter, lying) => {
    const bench = new Workbench(testRig([{}]));
    const { width, height } = DEVICE_SIZES[4]!;
    const size = lying ? { width: height, height: width } : { width, height };
    makeSurface(bench, 'Foredeck', size, starter);
    const { frames } = { frames: foredeck(checked(bench)).pages[0]!.controls.map(({ frame }) => frame) };
    for (const { x, y, width: w, height: h } of frames) expect(x >= 0 && y >= 0 && x + w <= size.width && y + h <= size.height && w >= 44 && h >= 44).toBe(true);
    for (const [i, one] of frames.entries()) for (const other of frames.slice(i + 1)) expect(one.x < other.x + other.width && other.x < one.x + one.width && one.y < other.y + other.height && other.y < one.y + one.height).toBe(false);
  });
  it('transport starts, stops and records', () => {
    expect(checked(freshDeck('transport')).mappings.slice(1).map(({ message }) => ('action' in message ? message.action : 'command' in message ? message.command : ''))).toEqual(['start', 'stop', 'continue', 'recordStrobe', 'rewind', 'fastForward']);
  });
});

describe('repeating', () => {
  it('counts labels and numbers on, across and down, never onto a used number', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'fader', { x: 10, y: 10, width: 60, height: 200 }, { label: 'Lamp 1' });
    const { ids, without } = repeatControls(bench, SPOT, ['lamp-1'], 4, 2, 10, 20);
    expect(without).toBe(0);
    const rig = checked(bench);
    const controls = foredeck(rig).pages[0]!.controls;
    expect(controls.map(({ label }) => label)).toEqual(['Lamp 1', 'Lamp 2', 'Lamp 3', 'Lamp 4', 'Lamp 5', 'Lamp 6', 'Lamp 7', 'Lamp 8']);
    expect(controls[5]!.frame).toEqual({ x: 80, y: 230, width: 60, height: 200 });
    // Its channel is that of the rig's own mapping, which holds CC 21.
    expect(ids.flatMap((id) => messages(rig, id)).map((message) => 'controller' in message && message.controller)).toEqual([20, 22, 23, 24, 25, 26, 27, 28]);
  });
  it('goes on to the next channel where one is full', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'fader', { x: 0, y: 0, width: 30, height: 30 });
    const { without } = repeatControls(bench, SPOT, ['fader'], 20, 10, 0, 0);
    expect(without).toBe(0);
    const used = checked(bench).mappings.map(({ message }) => ('channel' in message ? `${message.channel} ${'controller' in message ? message.controller : ''}` : ''));
    expect(new Set(used).size).toBe(used.length);
  });
  it('labels', () => {
    const taken = new Set(['Fog', 'Lamp 3', 'Lamp 4', '']);
    expect(['Fog', 'Lamp 3', 'Wind', ''].map((label) => countedLabel(label, taken))).toEqual(['Fog 2', 'Lamp 5', 'Wind', '']);
  });
});

describe('copying', () => {
  it('into another rig keeps numbers that are free there, springs, pairs and groups, and goes to an output that is there', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'xy', FRAME, { label: 'Wind' });
    makeControl(bench, SPOT, 'strip', FRAME);
    bench.put({ list: 'outputs', id: 'extra', to: { ...bench.rig.outputs[0]!, id: 'extra', name: 'Extra' } });
    for (const mapping of bench.rig.mappings.filter(({ signal }) => signal.startsWith('foredeck.'))) bench.put({ list: 'mappings', id: mapping.id, to: { ...mapping, output: 'extra' } });
    const grouped = controlsAt(foredeck(bench.rig), SPOT).map((control) => ({ ...control, group: 'g' }));
    const clip = clipOf(bench.rig, grouped);

    const other = freshDeck();
    const { ids, without } = pasteClip(other, SPOT, clip, { dx: 10, dy: 5 });
    expect([ids, without]).toEqual([['wind', 'strip'], 0]);
    const rig = checked(other);
    expect(rig.signals.find(({ id }) => id === 'foredeck.wind.x')).toMatchObject({ pair: 'foredeck.wind.y', rest: 0.5, input: 'foredeck' });
    expect(rig.signals.find(({ id }) => id === 'foredeck.strip')?.returns?.released).toBe('foredeck.strip.touch');
    const again = pasteClip(other, SPOT, clip, { dx: 20, dy: 10 });
    expect(again.ids).toEqual(['wind-2', 'strip-2']);
    const groups = controlsAt(foredeck(checked(other)), SPOT).map(({ group }) => group);
    expect(groups).toEqual(['g', 'g', 'g-2', 'g-2']);
  });
  it('between surfaces of more and of fewer banks gives each control those of the surface that it comes to', () => {
    const many = freshDeck();
    makeControl(many, SPOT, 'fader', FRAME);
    setBanks(many, 'foredeck', ['Port', 'Starboard', 'Aft']);
    const clip = clipOf(many.rig, controlsAt(foredeck(many.rig), SPOT));
    const none = freshDeck();
    pasteClip(none, SPOT, clip, { dx: 0, dy: 0 });
    expect(controlsAt(foredeck(checked(none)), SPOT)[0]!.banks).toBeUndefined();
    expect(none.rig.mappings).toHaveLength(2);
    const two = freshDeck();
    setBanks(two, 'foredeck', ['Port', 'Starboard']);
    pasteClip(two, SPOT, clip, { dx: 0, dy: 0 });
    expect(controlsAt(foredeck(checked(two)), SPOT)[0]!.banks).toHaveLength(1);
    const more = freshDeck();
    setBanks(more, 'foredeck', ['1', '2', '3', '4']);
    pasteClip(more, SPOT, clip, { dx: 0, dy: 0 });
    expect(controlsAt(foredeck(checked(more)), SPOT)[0]!.banks).toHaveLength(3);
    expect(more.rig.mappings).toHaveLength(5);
  });
  it('leaves behind what only the other rig has', () => {
    const bench = freshDeck();
    const clip = { controls: [{ id: 's', kind: 'scene', scene: 'landfall', label: 'Go', frame: FRAME, signals: {} }, { id: 'm', kind: 'meter', shows: 'nowhere', label: '', frame: FRAME, signals: {} }] as ControlOf<'scene' | 'meter'>[], signals: [], mappings: [], streams: [], voiceMappings: [] };
    pasteClip(bench, SPOT, clip, { dx: 0, dy: 0 });
    expect(controlsAt(foredeck(checked(bench)), SPOT)).toMatchObject([{ scene: null }, { shows: null }]);
  });
});

describe('changing a control', () => {
  it('gives it more signals or takes some away, with their mappings', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'faders', FRAME);
    const now = () => controlsAt(foredeck(bench.rig), SPOT)[0] as ControlOf<'faders'>;
    changeControl(bench, SPOT, { ...now(), count: 12 });
    expect(messages(checked(bench), 'fader-row')).toHaveLength(12);
    changeControl(bench, SPOT, { ...now(), count: 3 });
    const rig = checked(bench);
    expect(messages(rig, 'fader-row')).toHaveLength(3);
    expect(rig.signals.filter(({ input }) => input === 'foredeck')).toHaveLength(3);
  });
  it('that becomes endless sends steps instead of levels', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'dial', FRAME);
    const dial = controlsAt(foredeck(bench.rig), SPOT)[0] as ControlOf<'dial'>;
    changeControl(bench, SPOT, { ...dial, endless: true, signals: {} });
    const rig = checked(bench);
    expect(messages(rig, 'dial')).toMatchObject([{ kind: 'relative' }]);
    expect(rig.signals.find(({ id }) => id === controlsAt(foredeck(rig), SPOT)[0]!.signals.value)?.period).toBe(1);
  });
  it('renames what was named after it, and nothing else', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'fader', FRAME, { label: 'Fog' });
    bench.put({ list: 'mappings', id: 'own', to: { ...bench.rig.mappings.at(-1)!, id: 'own', name: 'My own name', message: { kind: 'channelPressure', channel: 9, range: [0, 127] } } });
    changeControl(bench, SPOT, { ...controlsAt(foredeck(bench.rig), SPOT)[0]!, label: 'Mist' });
    const { signals, mappings } = checked(bench);
    expect(signals.filter(({ input }) => input === 'foredeck').map(({ name }) => name)).toEqual(['Mist', 'Mist touch']);
    expect(mappings.slice(1).map(({ name }) => name)).toEqual(['Mist', 'My own name']);
  });
  it('that goes takes its signals, mappings and what scenes say of them with it', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'fader', FRAME);
    makeControl(bench, SPOT, 'meter', FRAME);
    const meter = controlsAt(foredeck(bench.rig), SPOT)[1] as ControlOf<'meter'>;
    changeControl(bench, SPOT, { ...meter, shows: 'foredeck.fader' });
    removeControls(bench, SPOT, ['fader']);
    const rig = checked(bench);
    expect(controlsAt(foredeck(rig), SPOT)).toMatchObject([{ kind: 'meter', shows: null }]);
    expect(rig.mappings).toHaveLength(1);
  });
});

it('an input that is a surface goes with the surface, and with the pages and banks that scenes turn it to', () => {
  const bench = freshDeck('mixer strips');
  setBanks(bench, 'foredeck', ['Port', 'Starboard']);
  bench.put({ list: 'scenes', id: 'dusk', to: { id: 'dusk', name: 'Dusk', mappings: {}, pages: { foredeck: 'first' }, banks: { foredeck: 1 }, values: { 'foredeck.level-1': 0.5 }, messages: [], glideMs: 0 } });
  bench.put(...removeInput(bench.rig, 'foredeck'));
  expect(checked(bench).scenes).toEqual([{ id: 'dusk', name: 'Dusk', mappings: {}, pages: {}, banks: {}, values: {}, messages: [], glideMs: 0 }]);
  expect(bench.rig.surfaces).toHaveLength(1);
});

describe('banks', () => {
  it('are the same controls with the next numbers; what comes later gets them too; fewer take theirs away', () => {
    const bench = freshDeck();
    makeControl(bench, SPOT, 'fader', FRAME);
    makeControl(bench, SPOT, 'xy', FRAME);
    setBanks(bench, 'foredeck', ['Port', 'Starboard', 'Aft']);
    const rig = checked(bench);
    const [fader, pad] = foredeck(rig).pages[0]!.controls;
    expect([fader!.banks?.length, pad!.banks?.length]).toEqual([2, 2]);
    const secondX = rig.signals.find(({ id }) => id === pad!.banks![0]!.x)!;
    expect(secondX.pair).toBe(pad!.banks![0]!.y);
    expect(rig.mappings).toHaveLength(1 + 3 * 3);
    makeControl(bench, SPOT, 'fader', FRAME);
    const [later] = controlsAt(foredeck(checked(bench)), SPOT).slice(-1);
    expect(later!.banks?.map((set) => Object.keys(set))).toEqual([['value', 'touch'], ['value', 'touch']]);
    const captions = [0, 1, 2].map((each) => captionsOf(bench.rig, foredeck(bench.rig), each)[later!.id]);
    expect(new Set(captions).size).toBe(3);
    removeControls(bench, SPOT, [later!.id]);
    setBanks(bench, 'foredeck', ['Only']);
    const fewer = checked(bench);
    expect(foredeck(fewer).banks).toBeUndefined();
    expect(fewer.mappings).toHaveLength(1 + 3);
  });
});

it('a label that is left empty shows what the control sends, or what it does', () => {
  const bench = freshDeck();
  makeControl(bench, SPOT, 'fader', FRAME, { label: '' });
  makeControl(bench, SPOT, 'fader', FRAME, { label: 'Fog' });
  const [first] = controlsAt(foredeck(bench.rig), SPOT);
  expect(captionsOf(bench.rig, foredeck(bench.rig))).toEqual({ [first!.id]: expect.stringMatching(/^ch \d+ · CC \d+$/) as string });
});

it('what a surface shows comes with its scale', () => {
  const bench = freshDeck();
  makeControl(bench, SPOT, 'ring', FRAME);
  changeControl(bench, SPOT, { ...(controlsAt(foredeck(bench.rig), SPOT)[0] as ControlOf<'ring'>), shows: 'fog' });
  expect(scalesOf(bench.rig, foredeck(bench.rig))).toEqual({ fog: { unit: 'unit', lo: 0, hi: 1 } });
});

it('a surface that travels alone forgets the scenes and signals that stay behind', () => {
  const bench = freshDeck();
  makeControl(bench, SPOT, 'fader', FRAME);
  makeControl(bench, SPOT, 'meter', FRAME);
  changeControl(bench, SPOT, { ...(controlsAt(foredeck(bench.rig), SPOT)[1] as ControlOf<'meter'>), shows: 'fog' });
  const part = kitOf(bench.rig, { list: 'inputs', id: 'foredeck' })!;
  expect(part.surfaces[0]!.pages[0]!.controls[1]).toMatchObject({ shows: null });
  expect(checkRig(JSON.parse(JSON.stringify(part))).ok).toBe(true);
});

it('what is wrong with a control is said with its place', () => {
  const bench = freshDeck();
  makeControl(bench, SPOT, 'tracks', FRAME);
  const rig = JSON.parse(JSON.stringify(bench.rig)) as { surfaces: { id: string; pages: { controls: { columns: number; signals: Record<string, string> }[] }[] }[] };
  const at = rig.surfaces.findIndex(({ id }) => id === 'foredeck');
  const [tracks] = rig.surfaces[at]!.pages[0]!.controls;
  delete tracks!.signals.value3;
  tracks!.signals.lamp = tracks!.signals.value1!;
  const result = checkRig(rig);
  const path = `surfaces[${at}].pages[0].controls[0].signals`;
  expect(result.ok ? [] : result.problems.map(({ field }) => field)).toEqual([`${path}.value3`, `${path}.lamp`]);
});
