import { expect, it } from 'vitest';
import { RIG_STARTERS, newRig } from '../../core/rig/starters';
import { addressKey } from '../../core/messages';
import { checkRig } from './index';

it.each(RIG_STARTERS)('a new rig, %s, is one that is accepted, and each of its addresses is used once', (starter) => {
  const rig = newRig('Harbour', starter);
  expect(checkRig(JSON.parse(JSON.stringify(rig)))).toEqual({ ok: true, value: rig });
  const addresses = rig.mappings.map(({ output, message }) => addressKey(output, message));
  expect(new Set(addresses).size).toBe(addresses.length);
});

it('those of a tablet play all that is on it', () => {
  for (const starter of ['tablet', 'keys'] as const) {
    const rig = newRig('Harbour', starter);
    expect(rig.surfaces).toHaveLength(1);
    const signals = rig.signals.filter(({ id }) => !id.endsWith('.touch'));
    expect(new Set(rig.mappings.map(({ signal }) => signal))).toEqual(new Set(signals.map(({ id }) => id)));
    expect(rig.voiceMappings.map(({ stream }) => stream)).toEqual(rig.streams.map(({ id }) => id));
    expect(new Set([...rig.mappings, ...rig.voiceMappings].map(({ output }) => output))).toEqual(new Set(['practice']));
  }
  expect(newRig('Harbour', 'empty').outputs).toEqual([]);
});
