import { expect, it } from 'vitest';
import { addressKey } from '../../core/mapping/address';
import { checkRig } from '../../protocol/rig';
import { nightFerry } from './nightFerry';

it('the demo rig is sound', () => expect(checkRig(JSON.parse(JSON.stringify(nightFerry())))).toEqual({ ok: true, value: nightFerry() }));

it('the demo rig uses each address once', () => {
  const addresses = nightFerry().mappings.map(({ output, message }) => addressKey(output, message));
  expect(new Set(addresses).size).toBe(addresses.length);
});
