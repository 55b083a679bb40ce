import { expect, it } from 'vitest';
import { announcedName } from './announcements';

it.each([
  ['Night Ferry', 'vm', 'Night Ferry on vm'],
  ['Night Ferry', 'wheelhouse.local', 'Night Ferry on wheelhouse'],
  ['Ferry 2.0', 'wheelhouse.lan.example', 'Ferry 2-0 on wheelhouse'],
])('%s at %s is announced as %s: a dot would begin another label (RFC 1035)', (session, host, name) => expect(announcedName(session, host)).toBe(name));
it.each(['Fähre', '渡し船', 'x', '🚢'])('a long name of %s is a label of at most 63 octets that ends with a whole letter (RFC 1035, 2.3.4)', (word) => {
  const name = announcedName(word.repeat(70), 'wheelhouse');
  const octets = Buffer.from(name);
  expect(octets.length).toBeLessThanOrEqual(63);
  expect(octets.length).toBeGreaterThan(59);
  expect(octets.toString()).toBe(name);
  expect(word.repeat(70).startsWith(name)).toBe(true);
});
