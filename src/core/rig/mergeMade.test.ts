import { describe, expect, it } from 'vitest';
import type { RigScene } from './document';
import { mergeMade } from './mergeMade';

const opened: RigScene = { id: 'fog', name: 'Fog', mappings: { bell: true, horn: false }, pages: {}, values: {}, messages: [], glideMs: 0, transport: 'start' };

describe('what is made of a thing that others change meanwhile', () => {
  it('is theirs where nobody here touched it, and ours where we did', () => {
    const now: RigScene = { ...opened, name: 'Thick fog', glideMs: 500 };
    expect(mergeMade(now, opened, { ...opened, glideMs: 900 })).toEqual({ ...opened, name: 'Thick fog', glideMs: 900 });
  });
  it('loses what they took away, unless we touched just that, and what we took away', () => {
    const now: RigScene = { ...opened, mappings: { bell: true } };
    const { transport, ...without } = opened;
    expect(transport).toBe('start');
    expect(mergeMade(now, opened, { ...without, mappings: { ...opened.mappings, rust: true } })).toEqual({ ...without, mappings: { bell: true, rust: true } });
    expect(mergeMade(now, opened, { ...opened, mappings: { bell: true, horn: true } }).mappings).toEqual({ bell: true, horn: true });
  });
  it('takes a list whole', () => {
    const [theirs, ours] = [[{ output: 'weather', bytes: [0xb0, 1, 2] }], [{ output: 'weather', bytes: [0xb0, 3, 4] }]];
    expect(mergeMade({ ...opened, messages: theirs }, opened, { ...opened, messages: ours }).messages).toEqual(ours);
    expect(mergeMade({ ...opened, messages: theirs }, opened, { ...opened, name: 'Other' }).messages).toEqual(theirs);
  });
});
