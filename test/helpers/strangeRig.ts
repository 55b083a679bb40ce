import type { Fields, Shape } from '../../src/core/messages/shapes';
import { MESSAGE_KINDS, MESSAGES } from '../../src/core/messages';
import { MEMBERS, PART_KINDS } from '../../src/core/ensemble/kinds';
import type { MemberPart } from '../../src/core/ensemble/parts';
import type { GateSpec, Motion, RigDocument, RigMapping, Shaping } from '../../src/core/rig/document';
import type { RigVoiceMapping, VoiceAxis } from '../../src/core/rig/voices';
import { FORMULAS } from '../../src/core/signal/formulas';
import { randomFrom } from '../../src/core/standIn/noise';
import { checkRig } from '../../src/protocol/rig';

type Thing = Record<string, unknown>;
type Chance = () => number;
/** An id of something of the rig, by what it must be of. */
type IdOf = (of: string | null) => string;

/** Numbers at which something begins, ends or turns round. */
const NUMBERS = [0, 1, -1, 0.5, 0.25, 0.001, 2, 3, 7, 16, 60, 64, 100, 127, 128, 360, 1000, 16383, 1e6, -1000];
const SHAPINGS: Shaping[] = [
  { smoothing: { kind: 'onePole', timeConstantMs: 50 } },
  { smoothing: { kind: 'onePole', timeConstantMs: 0 } },
  { smoothing: { kind: 'slew', perS: 1 } },
  { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 1000, derivativeCutoffHz: 1 } },
  { smoothing: { kind: 'attackRelease', attackMs: 0, releaseMs: 1000 } },
  { deglitch: { median: 5 } },
  { deglitch: { jump: { perS: 1, forMs: 100 } } },
  { steps: { count: 7, hysteresis: 0.5 } },
  { window: { lo: 0.5, hi: 0.5 } },
  { window: { lo: 0, hi: 0.5, fade: { law: 'equalPower', direction: 'out' } } },
  { rangeIn: { lo: 1, hi: 0, outside: 'fold' } },
  { rangeIn: { lo: 0.5, hi: 0.5 } },
  { curve: { kind: 'points', points: [[0, 0], [0.5, 1], [0.5, 0], [1, 1]] } },
  { curve: { kind: 'stepped', points: [[0, 0.3], [0.5, 1]] } },
  { deadZone: { kind: 'centre', inner: 0.5, outer: 1 } },
  { deadZone: { kind: 'ends', low: 0.5, high: 0.5 } },
];
const GATES: GateSpec[] = [{}, { on: 0.6, off: 0 }, { on: 0 }, { press: 'toggle' }, { press: { radio: 'a' } }, { minOnMs: 30, minGapMs: 1000 }, { on: 0.6, off: 0.6, minOnMs: 30, press: 'toggle' }];
const MOTIONS: Motion[] = [
  { kind: 'ramp', onLevel: 1, offLevel: 0.2, upMs: 300, downMs: 0 },
  { kind: 'climb', perS: 0.3, accelerationPerS2: 1 },
  { kind: 'climb', perS: -100, accelerationPerS2: 0 },
];
const LAYOUTS: RigVoiceMapping['layout'][] = [
  { kind: 'zone', zone: 'lower', members: 3, steal: 'oldest' },
  { kind: 'zone', zone: 'upper', members: 15, steal: 'quietest' },
  { kind: 'run', first: 3, last: 4, steal: 'refuse' },
  { kind: 'poly', channel: 5, voices: 2, steal: 'oldest' },
  { kind: 'mono', channel: 6, priority: 'last', legato: true, glideMs: 80 },
  { kind: 'mono', channel: 6, priority: 'lowest', legato: false, glideMs: 0 },
];
const PITCHES: RigVoiceMapping['pitch'][] = [
  { transpose: -12.3, bends: true },
  { transpose: 24, bends: false },
  { transpose: 0, bends: true, smoothing: { kind: 'onePole', timeConstantMs: 60 } },
  { transpose: 0, bends: true, pull: { scale: { kind: 'mode', root: 2, mode: 'dorian' }, referenceHz: 442, atStart: 1, held: 0.7, bandCents: 60, speedMs: 120, atRelease: 1 } },
  { transpose: 0, bends: false, pull: { scale: { kind: 'steps', root: 0, cents: [300, 1200] }, referenceHz: 440, atStart: 0, held: 1, bandCents: 1200, speedMs: 0, atRelease: 0 } },
];
const AXES: VoiceAxis[] = [
  { shaping: {}, message: { kind: 'polyPressure' }, range: [0, 127] },
  { shaping: { smoothing: { kind: 'attackRelease', attackMs: 20, releaseMs: 120 } }, message: { kind: 'channelPressure' }, range: [127, 0] },
  { shaping: { deglitch: { median: 3 } }, message: { kind: 'controlChange14', controller: 2 }, range: [0, 16383] },
  { shaping: { curve: { kind: 's', amount: 2 } }, message: { kind: 'controlChange', controller: 74 }, range: [64, 64] },
  { shaping: {}, message: { kind: 'keyController', controller: 10 }, range: [0, 127] },
];
const MERGES = ['latest', 'highest', 'lowest', 'sum', 'average'] as const;

/**
 * A rig that nobody would make and the program takes: the one given after many changes by chance, each of which was checked. The same for
 * the same seed.
 */
export function strangeRig(from: RigDocument, seed: number, changes: number): RigDocument {
  const chance = randomFrom(seed);
  for (let i = 0; i < 5; i++) chance();
  let rig = structuredClone(from);
  for (let change = 0; change < changes; change++) {
    const next = structuredClone(rig);
    alter(next, chance, change);
    const checked = checkRig(next);
    if (checked.ok) rig = checked.value;
  }
  return rig;
}

function alter(rig: RigDocument, chance: Chance, change: number): void {
  const pick = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)]!;
  const signal = () => pick([...rig.signals, ...rig.derived]).id;
  const idOf: IdOf = (of) => (of === 'stream' ? pick([...rig.streams, ...rig.members]).id : of === 'mapping' ? pick(rig.mappings).id : signal());
  const mapping = pick(rig.mappings) as RigMapping;
  switch (pick(['message', 'message', 'formula', 'shaping', 'gate', 'motion', 'merge', 'another', 'voices', 'voices', 'member', 'leaf', 'leaf', 'leaf'] as const)) {
    case 'message': {
      const kind = pick(MESSAGE_KINDS);
      mapping.message = { kind, ...fieldsOf(MESSAGES[kind].fields, chance, idOf) } as RigMapping['message'];
      return;
    }
    case 'formula': {
      const op = pick(Object.keys(FORMULAS) as (keyof typeof FORMULAS)[]);
      const formula = { op, ...fieldsOf(FORMULAS[op].fields, chance, idOf) } as RigDocument['derived'][number]['formula'];
      rig.derived.push({ id: `d${change}`, name: `D ${change}`, kind: pick(['continuous', 'continuous', 'gate']), unit: 'unit', range: pick([[0, 1], [-1, 1], [0, 360]]), formula });
      mapping.signal = `d${change}`;
      return;
    }
    case 'shaping':
      mapping.shaping = { ...mapping.shaping, ...structuredClone(pick(SHAPINGS)) };
      return;
    case 'gate':
      mapping.gate = structuredClone(pick(GATES));
      return;
    case 'motion':
      mapping.motion = pick(MOTIONS);
      return;
    case 'merge':
      mapping.merge = pick(MERGES);
      return;
    case 'another':
      rig.mappings.push({ ...structuredClone(mapping), id: `m${change}`, signal: signal(), output: pick(rig.outputs).id });
      return;
    case 'voices': {
      const voices = pick(rig.voiceMappings);
      Object.assign(voices, structuredClone(pick<Partial<RigVoiceMapping>>([{ layout: pick(LAYOUTS) }, { pitch: pick(PITCHES) }, { pressure: pick(AXES) }, { slide: pick(AXES) }, { keys: { low: 60, high: 70 } }, { stream: idOf('stream') }, { strikes: { low: 0.5, high: 1 } }])));
      return;
    }
    case 'member': {
      const kind = pick(PART_KINDS);
      const part = { kind, ...fieldsOf(MEMBERS[kind].fields, chance, idOf) } as MemberPart;
      rig.members.push({ ...structuredClone(pick(rig.members)), id: `member${change}`, part });
      pick(rig.voiceMappings).stream = `member${change}`;
      return;
    }
    case 'leaf':
      alterLeaf(pick(Object.values(rig).filter((list): list is Thing[] => Array.isArray(list) && list.length > 0 && typeof list[0] === 'object')), chance, signal);
  }
}

/** Goes down at random and makes a number, a choice or a reference another. */
function alterLeaf(list: Thing[], chance: Chance, signal: () => string): void {
  const pick = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)]!;
  let parent = pick(list);
  for (;;) {
    const keys = Object.keys(parent).filter((key) => key !== 'id');
    if (keys.length === 0) return;
    const key = pick(keys);
    const leaf = parent[key];
    if (typeof leaf === 'object' && leaf !== null) {
      parent = leaf as Thing;
      continue;
    }
    if (typeof leaf === 'number') parent[key] = pick([...NUMBERS, leaf * 2, leaf / 2, -leaf]);
    else if (typeof leaf === 'boolean') parent[key] = !leaf;
    else parent[key] = signal();
    return;
  }
}

function fieldsOf(fields: Fields, chance: Chance, idOf: IdOf): Thing {
  const made: Thing = {};
  for (const [name, shape] of Object.entries(fields)) if (!shape.optional || chance() < 0.4) made[name] = valueOf(shape, chance, idOf, made);
  return made;
}

/** Something that a shape allows. @param beside the fields before it */
function valueOf(shape: Shape, chance: Chance, idOf: IdOf, beside: Thing): unknown {
  const pick = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)]!;
  const make = (of: Shape) => valueOf(of, chance, idOf, beside);
  switch (shape.is) {
    case 'number': {
      const least = shape.notBelow === undefined ? shape.least : (beside[shape.notBelow] as number);
      return pick([least, shape.most, ...NUMBERS.filter((number) => number >= least && number <= shape.most && (!shape.whole || Number.isInteger(number)))]);
    }
    case 'choice':
      return pick(shape.of);
    case 'yesOrNo':
      return chance() < 0.5;
    case 'text':
      return '/a';
    case 'ip':
      return '127.0.0.1';
    case 'id':
      return idOf(shape.of);
    case 'pair':
      return [make(shape.of), make(shape.of)];
    case 'list':
      return Array.from({ length: shape.asLongAs === undefined ? Math.max(shape.least, Math.min(shape.most, Math.floor(chance() * 4))) : (beside[shape.asLongAs] as unknown[]).length }, () => make(shape.of));
    case 'object':
      return fieldsOf(shape.fields, chance, idOf);
    case 'objectOr':
      return make(chance() < 0.4 ? shape.object : shape.other);
    case 'wordOr':
      return chance() < 0.5 ? pick(shape.of) : make(shape.other);
    case 'having':
      return make(chance() < 0.5 ? shape.then : shape.otherwise);
    case 'by':
      return make(beside[shape.field] === shape.value ? shape.then : shape.otherwise);
    case 'tagged': {
      const word = pick(Object.keys(shape.cases));
      return { [shape.tag]: word, ...fieldsOf(shape.cases[word]!, chance, idOf) };
    }
  }
}
