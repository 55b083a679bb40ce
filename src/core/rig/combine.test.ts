import { describe, expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { changeSummary } from './changeSummary';
import { combine } from './combine';
import type { RigDocument } from './document';
import { applyEdit } from './edit';
import { kitOf } from './kit';
import { checkReferences } from './references';

/** A rig with a surface and a rope; the rope drives one mapping and a derived signal, the deck another. */
function ropeRig(): RigDocument {
  const rig = testRig([
    { name: 'Fog' },
    { name: 'Rope', signal: 'rope', output: 'hull' },
    { name: 'Strain', signal: 'strain', message: { kind: 'relative', channel: 1, controller: 20, encoding: 'signedBit', steps: 64, most: 8, fine: { signal: 'bell', divideBy: 4 } } },
  ]);
  rig.inputs.push({ id: 'mooring', name: 'Mooring', kind: 'osc', device: { report: 'rope', slot: 1 } });
  rig.signals.push({ id: 'rope', name: 'Rope', input: 'mooring', kind: 'continuous', unit: 'unit', range: [0, 1], source: 'stretch' });
  rig.derived.push({ id: 'strain', name: 'Strain', kind: 'continuous', unit: 'unit', range: [-1, 1], formula: { op: 'speed', of: 'rope' } });
  rig.derived.push({ id: 'both', name: 'Both', kind: 'continuous', unit: 'unit', range: [0, 2], formula: { op: 'sum', of: ['rope', 'fog'] } });
  rig.outputs.push({ id: 'hull', name: 'Hull', kind: 'standIn', receiver: 'hull' }, { id: 'unused', name: 'Unused', kind: 'standIn', receiver: 'hull' });
  rig.receivers.push({ id: 'hull', name: 'Hull', about: '', bendRangeSemitones: 48 });
  rig.scenes.push({ id: 's', name: 'S', mappings: { m1: true }, pages: { deck: 'one' }, values: { fog: 1 }, messages: [{ output: 'weather', bytes: [192, 0] }], glideMs: 0, recalledBy: { signal: 'bell' } });
  return rig;
}

const applied = (rig: RigDocument, part: RigDocument, how: 'putBack' | 'beside') => {
  const result = applyEdit(rig, { kind: 'change', changes: combine(rig, part, how) });
  if (!result.ok) throw new Error(result.message);
  expect(checkReferences(result.document)).toEqual([]);
  return result.document;
};
const names = (rig: RigDocument) => rig.mappings.map(({ name }) => name);

describe('a kit', () => {
  it('is whole in itself: the input, what follows from it alone, its mappings and where they go', () => {
    const part = kitOf(ropeRig(), { list: 'inputs', id: 'mooring' })!;
    expect(checkReferences(part)).toEqual([]);
    expect(part).toMatchObject({ name: 'Mooring', surfaces: [], scenes: [] });
    expect(part.derived.map(({ id }) => id)).toEqual(['strain']);
    expect(names(part)).toEqual(['Rope', 'Strain']);
    expect(part.outputs.map(({ id }) => id)).toEqual(['weather', 'hull']);
    // What another input would set is left out.
    expect(part.mappings[1]!.message).not.toHaveProperty('fine');
  });
  it('takes the surface of an input with it, and an output its receiver', () => {
    expect(kitOf(ropeRig(), { list: 'inputs', id: 'deck' })).toMatchObject({ surfaces: [{ id: 'deck' }], mappings: [{ name: 'Fog' }] });
    expect(kitOf(ropeRig(), { list: 'outputs', id: 'unused' })).toMatchObject({ outputs: [{ id: 'unused' }], receivers: [{ id: 'hull' }], inputs: [] });
    expect(kitOf(ropeRig(), { list: 'inputs', id: 'none' })).toBeNull();
  });
});

describe('putting a part back', () => {
  it('changes nothing where nothing changed', () => {
    const rig = ropeRig();
    const whole = { ...kitOf(rig, { list: 'inputs', id: 'deck' })! };
    expect(applied(rig, whole, 'putBack')).toEqual(rig);
    expect(changeSummary(rig, combine(rig, whole, 'putBack'))).toEqual({ added: {}, replaced: {}, removed: {}, clashes: [] });
  });
  it('makes the mappings of the input as they were, and leaves those of others', () => {
    const rig = ropeRig();
    const part = kitOf(rig, { list: 'inputs', id: 'mooring' })!;
    const later = structuredClone(rig);
    later.mappings[1]!.on = false;
    later.mappings[0]!.name = 'Mist';
    later.mappings.push({ ...rig.mappings[1]!, id: 'm9', name: 'Later' });
    const changes = combine(later, part, 'putBack');
    expect(changeSummary(later, changes)).toMatchObject({ replaced: { mappings: 2 }, removed: { mappings: 1 } });
    const back = applied(later, part, 'putBack');
    expect(names(back)).toEqual(['Mist', 'Rope', 'Strain']);
    expect(back.mappings[1]!.on).toBe(true);
  });
  it('puts a whole rig back, scenes and all', () => {
    const rig = ropeRig();
    const later = structuredClone(rig);
    later.scenes[0]!.glideMs = 500;
    later.mappings.pop();
    expect(applied(later, rig, 'putBack')).toEqual(rig);
  });
  it('brings an output back as it was', () => {
    const rig = ropeRig();
    const part = kitOf(rig, { list: 'outputs', id: 'hull' })!;
    const later = structuredClone(rig);
    later.receivers[1]!.bendRangeSemitones = 2;
    expect(applied(later, part, 'putBack').receivers[1]!.bendRangeSemitones).toBe(48);
  });
});

describe('adding beside', () => {
  it('copies a surface with signals of its own; the clashes are said before', () => {
    const rig = ropeRig();
    const part = kitOf(rig, { list: 'inputs', id: 'deck' })!;
    expect(changeSummary(rig, combine(rig, part, 'beside')).clashes).toHaveLength(2);
    const both = applied(rig, part, 'beside');
    expect(both.surfaces.map(({ id, name }) => `${id} ${name}`)).toEqual(['deck Deck', 'deck-2 Deck 2']);
    expect(both.mappings.at(-1)).toMatchObject({ name: 'Fog', signal: 'fog-2' });
    expect(both.surfaces[1]!.pages[0]!.controls[0]!.signals).toEqual({ value: 'fog-2', touch: 'fog.touch-2' });
  });
  it('joins the device that the rig knows, under whatever name, and what it knows of its signals', () => {
    const rig = testRig([]);
    rig.inputs.push({ id: 'my-rope', name: 'My rope', kind: 'osc', device: { report: 'rope', slot: 1 } });
    rig.signals.push({ id: 'mine', name: 'Mine', input: 'my-rope', kind: 'continuous', unit: 'unit', range: [0, 1], source: 'stretch' });
    const both = applied(rig, kitOf(ropeRig(), { list: 'inputs', id: 'mooring' })!, 'beside');
    expect(both.inputs.map(({ id }) => id)).toEqual(['deck', 'my-rope']);
    expect(both.mappings[0]).toMatchObject({ name: 'Rope', signal: 'mine', output: 'hull' });
    expect(both.derived[0]!.formula).toEqual({ op: 'speed', of: 'mine' });
  });
  it('takes in a whole rig with its scenes', () => {
    const both = applied(ropeRig(), ropeRig(), 'beside');
    expect(names(both)).toHaveLength(6);
    const scene = both.scenes[1]!;
    expect(scene).toMatchObject({ id: 's-2', name: 'S 2', pages: { 'deck-2': 'one' }, values: { 'fog-2': 1 }, recalledBy: { signal: 'bell-2' } });
  });
});
