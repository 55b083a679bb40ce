import { expect, it } from 'vitest';
import { checkRig } from '../../protocol/rig';
import { nightFerry } from './nightFerry';
import { addressKey } from '../../core/messages';

it('the demo rig is sound', () => expect(checkRig(JSON.parse(JSON.stringify(nightFerry())))).toEqual({ ok: true, value: nightFerry() }));

it('the demo rig uses each address once', () => {
  const addresses = nightFerry().mappings.map(({ output, message }) => addressKey(output, message));
  expect(new Set(addresses).size).toBe(addresses.length);
});
