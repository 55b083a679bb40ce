import { describe, expect, it } from 'vitest';
import { voiceRig } from '../../core/engine/voices/testVoices';
import { testRig } from '../../core/engine/testRig';
import { combine } from '../../core/rig/combine';
import type { MemberPart } from '../../core/ensemble/parts';
import type { RigControl, RigDocument } from '../../core/rig/document';
import { duplicateMapping } from '../../core/rig/duplicate';
import { applyEdit, RIG_LISTS, type Change, type RigEdit, type RigList } from '../../core/rig/edit';
import { kitOf } from '../../core/rig/kit';
import { eachLink } from '../../core/rig/links';
import { checkReferences } from '../../core/rig/references';
import { remove, type Going } from '../../core/rig/remove';
import { randomFrom } from '../../core/standIn/noise';
import { clipOf, pasteClip, removeControls } from '../../core/surface/copy';
import { Workbench } from '../../core/surface/workbench';
import { checkEdited, checkRig, LISTS } from './index';
import type { MessageSpec } from '../../core/messages';

/** A rig in which everything that can refer to something does. */
function knot(): RigDocument {
  const note: MessageSpec = { kind: 'note', channel: 1, note: 60, velocity: 100, repeat: { rateHz: { signal: 'rate' } } };
  const rig = testRig([
    { signal: 'bell', message: note },
    { signal: 'fog', message: { kind: 'polyPressure', channel: 1, note: { of: 'm0' }, range: [0, 127] } },
    { signal: 'sum', message: { kind: 'relative', channel: 1, controller: 20, encoding: 'signedBit', steps: 64, most: 8, fine: { signal: 'bell', divideBy: 4 } } },
    { signal: 'rope' },
    { signal: 'wave', output: 'out', message: { kind: 'osc', address: '/a', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] } },
  ]);
  rig.inputs.push({ id: 'mooring', name: 'Mooring', kind: 'osc' }, { id: 'board', name: 'Board', kind: 'midi', device: { report: 'b', slot: 1 }, thru: { output: 'weather', channels: [1], kinds: ['notes'], split: { below: 60, output: 'weather' } } });
  const rope = { name: 'Rope', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number] };
  rig.signals.push({ ...rope, id: 'rope', input: 'mooring', pair: 'rope2' }, { ...rope, id: 'rope2', input: 'mooring', pair: 'rope' });
  rig.signals[0]!.returns = { to: 0, overMs: 100, released: 'fog.touch' };
  rig.signals.push({ ...rope, id: 'fog.2', input: 'deck' }, { ...rope, id: 'fog.touch.2', input: 'deck', kind: 'gate' }, ...['bell.2', 'knot', 'knot.2'].map((id) => ({ ...rope, id, input: 'deck', kind: 'gate' as const })));
  const derived = (id: string, formula: RigDocument['derived'][number]['formula']) => rig.derived.push({ ...rope, id, formula });
  derived('sum', { op: 'sum', of: ['fog', 'rope'] });
  derived('way', { op: 'distance', from: ['fog', 'rope'], to: ['rope2', 'sum'] });
  derived('speed', { op: 'speed', of: 'rope' });
  derived('held', { op: 'hold', of: 'speed', gate: 'bell' });
  derived('rate', { op: 'constant', value: 3 });
  derived('wave', { op: 'oscillator', shape: 'sine', rateHz: { signal: 'rate' }, depth: { signal: 'sum' } });
  rig.outputs.push({ id: 'out', name: 'Out', kind: 'osc', host: '127.0.0.1', port: 9000, receiver: 'hull' }, { id: 'split', name: 'Split', kind: 'standIn', receiver: 'hull', configuration: { to: 'weather' }, comesBack: 'board' });
  rig.mappings[3]!.shownOn = { output: 'split', as: 'note', channel: 1, number: 1, from: 0, to: 127 };
  rig.receivers.push({ id: 'hull', name: 'Hull', about: '', bendRangeSemitones: 48, taught: { m0: 'channel 1 · C4', m4: '/a' }, taughtVoices: { v1: 'notes' } });
  rig.streams.push({ id: 'ivory', name: 'Keys', input: 'deck' }, { id: 'ribs', name: 'Field', input: 'deck' }, { id: 'notes', name: 'Notes', input: 'board', source: 'all' });
  rig.scales.push({ id: 'tide', name: 'Tide', cents: [700, 1200] });
  const pull = { scale: { kind: 'kept', scale: 'tide' }, referenceHz: 440, atStart: 1, held: 0, bandCents: 50, speedMs: 200, atRelease: 0 } as const;
  rig.voiceMappings = voiceRig({ stream: 'ribs', pitch: { transpose: 0, bends: true, pull } }, { stream: 'notes', layout: { kind: 'poly', channel: 9, voices: 8, steal: 'oldest' } }).voiceMappings;
  const member = { on: true, level: 1, octave: 0, begins: 'now', swing: 0.5, feelMs: 0 } as const;
  const chord = { kind: 'chord', tonic: 0, mode: 'major', tones: 3, inversion: 0, leads: true, spread: 'close', bass: 'none', low: 55, stays: 'nothing' } as const;
  const parts: MemberPart[] = [
    { ...chord, from: { by: 'stream', stream: 'notes' }, qualities: [{ gate: 'bell', quality: 'm7' }] },
    { ...chord, from: { by: 'gates', gates: [{ gate: 'bell', degree: 1 }, { gate: 'knot', degree: 2 }] } },
    { ...chord, from: { by: 'signal', signal: 'wave', gate: 'bell' } },
    { kind: 'strum', listens: 'member.0', across: 'fog', touch: 'fog.touch', by: 'bell', strings: 6, directions: 'both', ringMs: 900, dampedBy: 'chord', fullMs: 100 },
    { kind: 'bass', listens: 'member.1', way: 'walk', tones: ['root'], low: 30, everyBeats: 1, length: 0.5, strike: 1, while: 'bell' },
    { kind: 'arpeggio', listens: 'ivory', order: 'up', octaves: 1, everyBeats: 1, length: 1, accents: [], latch: false },
    { kind: 'pattern', listens: 'member.0', everyBeats: 1, patterns: [{ name: 'A', lanes: [] }], present: 0, chosenBy: 'fog', fill: { gate: 'bell', pattern: 0 }, while: 'bell' },
    { kind: 'stream', everyBeats: 1, pitch: 'fog', low: 20, high: 90, tonic: 0, mode: 'chromatic', strike: { signal: 'rope' }, length: { signal: 'rope2' }, while: 'bell' },
    { kind: 'echo', listens: 'member.3', times: 2, everyBeats: 1, softer: 0.5, fewer: 1, transpose: 0 },
  ];
  rig.members = parts.map((part, i) => ({ ...member, id: `member.${i}`, name: part.kind, part }));
  rig.voiceMappings.push({ ...rig.voiceMappings[0]!, id: 'v2', stream: 'member.0' });
  const scene = { members: { 'member.0': true, 'member.8': false }, transport: 'start' as const, name: 'S', glideMs: 0, mappings: { m0: true, m3: false }, voiceMappings: { v0: true, v1: false }, alone: { weather: true }, pages: { deck: 'two' }, banks: { deck: 1 }, values: { fog: 1, rope: 0 }, messages: [{ output: 'weather', bytes: [0xc0, 1] }], recalledBy: { signal: 'bell' } };
  rig.scenes.push({ ...scene, id: 's1' }, { ...scene, id: 's2', name: 'S2' });
  const frame = { x: 0, y: 0, width: 50, height: 50 };
  const plain = { label: '', frame, signals: {} };
  const more: RigControl[] = [
    { ...plain, id: 'meter', kind: 'meter', shows: 'wave' },
    { ...plain, id: 'go', kind: 'page', page: 'one' },
    { ...plain, id: 'recall', kind: 'scene', scene: 's1' },
  ];
  const inFold: RigControl = { ...plain, id: 'knot', kind: 'push', signals: { gate: 'knot' }, banks: [{ gate: 'knot.2' }] };
  const field = { kind: 'pitchField', rows: 3, low: 48, span: 24, interval: 5, strikeFrom: 'fixed', pressureFrom: 'travel', across: false } as const;
  const deck = rig.surfaces[0]!;
  deck.banks = ['A', 'B'];
  deck.pages[0]!.controls[0] = { ...deck.pages[0]!.controls[0]!, banks: [{ value: 'fog.2', touch: 'fog.touch.2' }] };
  deck.pages[0]!.controls[1] = { ...deck.pages[0]!.controls[1]!, banks: [{ gate: 'bell.2' }] };
  deck.pages.push({ id: 'two', name: 'Two', controls: [...more, { ...plain, id: 'keyboard', kind: 'keys', low: 48, high: 60, strength: 'fixed', stream: 'ivory' }, { ...plain, id: 'fold', kind: 'fold', opens: 'tap', panel: frame, controls: [...more.map((control) => ({ ...control, id: `${control.id}-in` })), inFold, { ...plain, ...field, id: 'field', stream: 'ribs' }] }] });
  return rig;
}

/** Paths without places: `controls[3].signals.value` is `controls.*.signals.*`. */
const general = (at: string) => at.replace(/\[\d+\]/g, '.*').replace(/^pages\.deck$/, 'pages.*').replace(/^(.*controls.*\.)(signals|banks\.\*)\.\w+$/, '$1$2.*');

interface Described {
  type: string;
  keys?: Record<string, Described>;
  items?: Described[];
  patterns?: { schema?: Described; rule: Described }[];
  matches?: { schema?: Described; then?: Described; otherwise?: Described; switch?: { then: Described }[] }[];
  rules?: { name: string; args?: { options?: { name?: string } } }[];
  whens?: { then?: Described; otherwise?: Described }[];
}

/** Where a schema lets an id stand. */
function idsIn(schema: Described, at = ''): string[] {
  const below = (field: string) => (at === '' ? field : `${at}.${field}`);
  const own = schema.rules?.some(({ args }) => args?.options?.name === 'letters, digits, dot, dash and underscore') ? [at] : [];
  return [
    ...own,
    ...Object.entries(schema.keys ?? {}).flatMap(([field, of]) => idsIn(of, below(field))),
    ...(schema.items ?? []).flatMap((item) => idsIn(item, below('*'))),
    ...(schema.patterns ?? []).flatMap(({ schema: key, rule }) => [...(key && idsIn(key).length > 0 ? [at] : []), ...idsIn(rule, below('*'))]),
    ...(schema.matches ?? []).flatMap(({ then, otherwise, switch: cases = [], schema: alone }) => [then, otherwise, alone, ...cases.map((one) => one.then)].flatMap((one) => (one ? idsIn(one, at) : []))),
  ];
}

/** Ids that name a thing itself, a group, or something kept outside of the rig. */
const NO_LINK = /(^|\.)id$|\.group$|^recording$|^gate\.press\.radio$/;

describe('the walker of references', () => {
  const rig = knot();

  it('has a rig here that is good', () => expect(checkRig(rig)).toMatchObject({ ok: true }));

  it.each(RIG_LISTS)('knows every reference that the schema of %s allows', (list) => {
    const allowed = new Set(idsIn(LISTS[list].item.describe() as Described).filter((at) => !NO_LINK.test(at)));
    const known = new Set<string>();
    for (const thing of rig[list]) eachLink(list, thing, (_, __, at) => void known.add(general(at)));
    expect([...known].sort()).toEqual([...allowed].sort());
  });

  it('finds each of them broken, and says where', () => {
    for (const list of RIG_LISTS) {
      rig[list].forEach((thing, i) =>
        eachLink(list, thing, (_, id, at) => {
          const broken = { ...rig, [list]: rig[list].with(i, JSON.parse(JSON.stringify(thing).replaceAll(`"${id}"`, '"nowhere"').replaceAll('"id":"nowhere"', `"id":"${thing.id}"`)) as never) };
          expect(checkReferences(broken).some(({ path, message }) => path.startsWith(`${list}[${i}]`) && message.includes('"nowhere"')), `${list}[${i}].${at}`).toBe(true);
        }),
      );
    }
  });
});

const KINDS: Record<string, Going['kind']> = { inputs: 'input', signals: 'signal', derived: 'signal', mappings: 'mapping', streams: 'stream', voiceMappings: 'voiceMapping', scales: 'scale', outputs: 'output', receivers: 'receiver', surfaces: 'surface', scenes: 'scene' };

describe.each([1, 2, 3, 4, 5, 6])('random edits, seed %i', (seed) => {
  const random = randomFrom(seed);
  const pick = <T>(things: readonly T[]): T | undefined => things[Math.floor(random() * things.length)];

  /** An edit as a screen makes it. */
  function sensible(rig: RigDocument): Change[] {
    const list = pick<RigList>(RIG_LISTS)!;
    const thing = pick<{ id: string }>(rig[list]);
    const surface = pick(rig.surfaces);
    const page = surface && pick(surface.pages);
    const spot = surface && page ? { surface: surface.id, page: page.id } : null;
    const control = page && pick(page.controls);
    switch (Math.floor(random() * 7)) {
      case 0:
      case 1:
        return thing ? remove(rig, [{ kind: KINDS[list]!, id: thing.id }]) : [];
      case 2:
        return [duplicateMapping(rig, pick(rig.mappings)?.id ?? '')?.change].filter((change) => change !== undefined);
      case 3: {
        const kit = kitOf(random() < 0.5 ? rig : knot(), { list: 'inputs', id: pick(['deck', 'mooring', 'board'])! });
        return kit ? combine(rig, kit, pick(['putBack', 'beside'] as const)!) : [];
      }
      case 4:
        return combine(rig, knot(), pick(['putBack', 'beside'] as const)!);
      default: {
        if (!spot || !control) return [];
        const bench = new Workbench(rig);
        if (random() < 0.5) removeControls(bench, spot, [control.id]);
        else {
          const from = random() < 0.5 ? rig : knot();
          const copied = pick(pick(from.surfaces[0]!.pages)!.controls);
          if (copied) pasteClip(bench, spot, clipOf(from, [copied]), { dx: 10, dy: 10 });
        }
        return bench.squeezed;
      }
    }
  }

  it('leave no reference that leads nowhere', () => {
    let rig = knot();
    for (let i = 0; i < 120; i++) {
      const changes = sensible(rig);
      const applied = applyEdit(rig, { kind: 'change', changes });
      if (!applied.ok) throw new Error(applied.message);
      expect(checkReferences(applied.document), JSON.stringify(changes).slice(0, 2000)).toEqual([]);
      rig = applied.document.mappings.length > 60 || applied.document.surfaces.length > 6 ? knot() : applied.document;
    }
  });

  it('that break something are refused by the look at what they changed alone just as by the look at everything', () => {
    let rig = knot();
    let refused = 0;
    for (let i = 0; i < 150; i++) {
      const list = pick<RigList>(RIG_LISTS)!;
      const thing = pick<RigDocument[RigList][number]>(rig[list]);
      if (!thing) continue;
      const other = JSON.stringify(thing).replace(new RegExp(`"${pick(['fog', 'bell', 'rope', 'sum', 'weather', 'deck', 'm0', 'rate'])!}"`), `"${pick(['rope', 'fog', 'gone', 'hull', 's1', 'wave', 'two'])!}"`);
      const edit: RigEdit = { kind: 'change', changes: [{ list, id: thing.id, to: random() < 0.3 ? null : { ...(JSON.parse(other) as object), id: thing.id } } as Change] };
      const applied = applyEdit(rig, edit);
      if (!applied.ok) throw new Error(applied.message);
      const [quick, whole] = [checkEdited(rig, applied.document), checkRig(applied.document)];
      expect(quick, JSON.stringify(edit)).toEqual(whole);
      if (!whole.ok) refused++;
      else rig = random() < 0.1 ? knot() : applied.document;
    }
    expect(refused).toBeGreaterThan(20);
  });
});
