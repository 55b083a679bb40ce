import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit } from './edit';
import { gateScene, withGate } from './sceneTransport';

it('a gate taps by a scene of its own, which goes to another gate and is gone with none; scenes that hold more are left alone', () => {
  const rig = testRig([]);
  rig.scenes = [{ id: 'song', name: 'Tap the tempo', mappings: {}, pages: {}, values: { fog: 1 }, messages: [], glideMs: 0, transport: 'tap', recalledBy: { signal: 'bell' } }];
  const after = (document: typeof rig, signal: string | null) => {
    const edited = applyEdit(document, { kind: 'change', changes: withGate(document, 'tap', signal) });
    if (!edited.ok) throw new Error(edited.message);
    return edited.document;
  };
  expect(gateScene(rig, 'tap')).toBeUndefined();
  const tapped = after(rig, 'bell');
  expect(gateScene(tapped, 'tap')).toMatchObject({ name: 'Tap the tempo 2', transport: 'tap', recalledBy: { signal: 'bell' } });
  const other = after(tapped, 'fog.touch');
  expect(other.scenes.map(({ id, recalledBy }) => `${id} ${recalledBy?.signal}`)).toEqual(['song bell', 'tap-the-tempo fog.touch']);
  expect(after(other, null).scenes).toEqual(rig.scenes);
  expect(withGate(rig, 'startStop', null)).toEqual([]);
});
