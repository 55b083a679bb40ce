import { describe, expect, it } from 'vitest';
import { playCrew, struck } from '../engine/ensemble/testCrew';
import { newRig } from '../rig/starters';
import { blocksOf, type Moment } from './blocks';
import { freshMemberOf } from './addMember';
import { PART_KINDS } from './kinds';
import { routingOf } from './routing';
import { applyEdit } from '../rig/edit';
import type { RigDocument } from '../rig/document';
import { mismatches } from '../receivers/mismatch';
import { remove } from '../rig/remove';
import { checkReferences } from '../rig/references';

const rig = newRig('Band', 'chords');
const gateOf = (label: string) => Object.values(rig.surfaces[0]!.pages[0]!.controls.find((control) => control.label === label)!.signals)[0]!;

describe('a board of chords', () => {
  it('is a whole rig: seven degrees, seven kinds, a strip, three switches, five members to four receivers', () => {
    expect(checkReferences(rig)).toEqual([]);
    expect(rig.surfaces[0]!.pages[0]!.controls.map(({ label }) => label)).toEqual(['I', 'ii', 'iii', 'IV', 'V', 'vi', 'vii°', '7', 'maj7', 'm7', 'sus4', 'sus2', 'dim', '9', 'Strum', 'Bass', 'Drums', 'Arpeggio']);
    expect(rig.members.map(({ name }) => name)).toEqual(['Chords', 'Strum', 'Bass', 'Drums', 'Arpeggio']);
    expect(new Set(rig.voiceMappings.map(({ output }) => output)).size).toBe(4);
    expect(rig.mappings).toEqual([]);
  });
  it('starts with the first chord, or the drums; bass at once, drums at the bar', () => {
    const { move, run, heard, engine } = playCrew({ ...rig, streams: [{ id: 'hull', name: 'Hull', input: rig.inputs[0]!.id }] });
    move(gateOf('Bass'), 0, 1);
    expect(engine.running).toBe(false);
    move(gateOf('V'), 500, 1);
    expect(engine.running).toBe(true);
    move(gateOf('Drums'), 600, 1);
    run(600, 2600);
    const all = heard();
    expect(struck(all, 1)).toContainEqual([500, 55]);
    // Drums come in at the bar: of four beats at 120 bpm.
    expect(struck(all, 10)[0]).toEqual([2500, 36]);
  });
});

describe('new members', () => {
  it.each(PART_KINDS)('a %s fits into any rig that has something to listen to', (kind) => {
    const { changes, id } = freshMemberOf(rig, kind);
    const applied = applyEdit(rig, { kind: 'change', changes });
    expect(applied.ok && checkReferences(applied.document)).toEqual([]);
    expect(applied.ok && applied.document.voiceMappings.some(({ stream }) => stream === id)).toBe(true);
  });
  it('go, and with them what listened to them and where they went', () => {
    const chords = rig.members[0]!.id;
    const applied = applyEdit(rig, { kind: 'change', changes: remove(rig, [{ kind: 'stream', id: chords }]) });
    expect(applied.ok && applied.document.members.map(({ name }) => name)).toEqual(['Drums']);
    expect(applied.ok && applied.document.voiceMappings.length).toBe(1);
  });
  it('lose a pad that goes, and nothing else; the other degrees stay what they were', () => {
    const gate = gateOf('ii');
    const applied = applyEdit(rig, { kind: 'change', changes: remove(rig, [{ kind: 'signal', id: gate }, { kind: 'signal', id: gateOf('sus4') }]) });
    const chord = applied.ok ? applied.document.members.find(({ part }) => part.kind === 'chord')!.part : null;
    expect(applied.ok && applied.document.members.length).toBe(5);
    expect(chord?.kind === 'chord' && chord.from.by === 'gates' && chord.from.gates.map(({ degree }) => degree)).toEqual([1, 3, 4, 5, 6, 7]);
    expect(chord?.kind === 'chord' && chord.qualities!.map(({ quality }) => quality)).toEqual(['7', 'maj7', 'm7', 'sus2', 'dim7', '9']);
  });
  it('are played by nobody else: a control of a surface cannot be one', () => {
    const [surface] = rig.surfaces;
    const keys = { id: 'keys', kind: 'keys', label: 'Keys', frame: { x: 0, y: 0, width: 100, height: 100 }, signals: {}, low: 48, high: 60, strength: 'fixed', stream: rig.members[0]!.id } as const;
    const surfaces = [{ ...surface!, pages: [{ ...surface!.pages[0]!, controls: [...surface!.pages[0]!.controls, keys] }] }];
    expect(checkReferences({ ...rig, surfaces }).map(({ message }) => message)).toEqual([`expected a stream of this surface, found "${rig.members[0]!.id}"`]);
  });
  it('that listen to each other in a circle are refused, by their names', () => {
    const listens = (id: string, to: string): RigDocument['members'][number] => ({ ...rig.members[4]!, id, name: id.toUpperCase(), part: { ...rig.members[4]!.part, listens: to } as RigDocument['members'][number]['part'] });
    expect(checkReferences({ ...rig, members: [...rig.members, listens('a', 'b'), listens('b', 'a')] })).toEqual([{ path: 'members[5].part', message: 'members must not listen to each other in a circle, found A -> B -> A' }]);
    expect(checkReferences({ ...rig, members: [listens('a', 'a')], voiceMappings: [] })[0]!.message).toContain('A -> A');
  });
});

describe('the wiring at a glance', () => {
  it('says of each member what it hears, where it goes, and who follows it', () => {
    expect(routingOf(rig).map(({ member, kind, leads, ways }) => [member.name, kind, leads.join(), ways.map(({ receiver, where }) => `${receiver}: ${where}`).join()])).toEqual([
      ['Chords', 'Chord', 'Strum,Bass,Arpeggio', 'Chords: channel 1 · notes'],
      ['Strum', 'Strum', '', 'Strings: channel 1 · notes'],
      ['Bass', 'Bass', '', 'Low strings: channel 1 · notes'],
      ['Drums', 'Pattern', '', 'Drums: channel 10 · notes'],
      ['Arpeggio', 'Arpeggio', '', 'Strings: channel 2 · notes'],
    ]);
  });
  it('names who meets on one channel', () => {
    const voiceMappings = rig.voiceMappings.map((mapping) => (mapping.name === 'Arpeggio' ? { ...mapping, layout: { kind: 'poly', channel: 1, voices: 4, steal: 'oldest' } as const } : mapping));
    expect(routingOf({ ...rig, voiceMappings })[1]!.ways[0]!.meets).toEqual(['Arpeggio']);
  });
});

it('a receiver of one voice under six strings is said', () => {
  const receivers = rig.receivers.map((receiver) => ({ ...receiver, voices: 1 }));
  const said = mismatches({ ...rig, receivers }).map(({ text }) => text);
  expect(said).toContain('6 strings for 1 voice there: the newest cut off the others: Strum');
  expect(said).toContain('3 tones for 1 voice there: the newest cut off the others: Chords');
});

describe('what stands in the way of a member', () => {
  const free: Moment = { running: true, isOn: () => true, hasHarmony: () => true, sends: () => true, away: () => null };
  const bass = rig.members[2]!;
  const of = (change: (rig: RigDocument) => RigDocument, moment: Partial<Moment> = {}) => {
    const changed = change(rig);
    return blocksOf(changed, changed.members.find(({ id }) => id === bass.id)!, { ...free, ...moment });
  };
  const same = (document: RigDocument) => document;
  it('is nothing, or what it is', () => {
    expect(of(same)).toEqual([]);
    expect(of(same, { running: false })).toEqual(['waits for the transport']);
    expect(of(same, { hasHarmony: () => false })).toEqual(['no chord yet']);
    expect(of(same, { isOn: () => false })).toEqual(['off by a scene']);
    expect(of(same, { away: () => 'is not plugged in' })).toEqual(['Low strings is not plugged in']);
    expect(of(same, { sends: () => false })).toEqual(['its voice mapping is off by a scene']);
    expect(of((document) => ({ ...document, outputs: document.outputs.map((output) => ({ ...output, muted: true })) }))).toEqual(['Low strings is muted']);
    expect(of((document) => ({ ...document, outputs: document.outputs.map((output) => ({ ...output, filter: { without: ['notes' as const] } })) as RigDocument['outputs'] }))).toEqual(['the filter of Low strings holds it back']);
    expect(of((document) => ({ ...document, voiceMappings: [] }))).toEqual(['goes nowhere: choose an output']);
    expect(of((document) => ({ ...document, members: document.members.map((member) => (member.name === 'Drums' ? { ...member, alone: true } : member)) }))).toEqual(['Drums alone']);
  });
});
