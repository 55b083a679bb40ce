import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Pumice, waitFor } from '../helpers/pumice';

const MODEL = '/hands/model/0.4.1675469240';
let pumice: Pumice;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  await waitFor('the hub', async () => (await pumice.health()).ok);
});
afterAll(() => pumice.stop());

const policyOf = async (path: string) => (await fetch(`${pumice.url}${path}`)).headers.get('content-security-policy') ?? '';

describe('the page of the hands', () => {
  it('may compile WebAssembly, it and what it loads, and no other page', async () => {
    for (const path of ['/hands', '/hands/tracker.js', `${MODEL}/hands.js`]) expect(await policyOf(path)).toContain("'wasm-unsafe-eval'");
    for (const path of ['/inputs', '/listen', '/handsome', '/api/health?/hands']) expect(await policyOf(path)).not.toContain('wasm');
  });

  it('gets the model whole, with its length, to be kept for good; of another version and of other names nothing', async () => {
    const answer = await fetch(`${pumice.url}${MODEL}/hand_landmark_lite.tflite`);
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect(answer.headers.get('x-pumice-bytes')).toBe(String(bytes.length));
    expect(answer.headers.get('cache-control')).toContain('immutable');
    const digest = (of: Buffer) => createHash('sha256').update(of).digest('hex');
    expect(digest(bytes)).toBe(digest(readFileSync('node_modules/@mediapipe/hands/hand_landmark_lite.tflite')));
    for (const path of ['/hands/model/0.4.1/hands.js', `${MODEL}/package.json`, `${MODEL}/..%2fpackage.json`, `${MODEL}/hands.js%00.js`, `${MODEL}/none.js`]) {
      const refused = await fetch(`${pumice.url}${path}`);
      expect([path, refused.status]).toEqual([path, 404]);
    }
  });

  it('keeps how hands are understood, says what is wrong with it, and changes nothing on Stage', async () => {
    const url = `${pumice.url}/api/settings/hands`;
    const put = (body: unknown) => fetch(url, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    const usual = (await (await fetch(url)).json()) as object;
    expect(usual).toMatchObject({ mirrored: true, model: 'fast', whenLost: 'hold', poses: [] });
    expect((await put({ ...usual, whenLost: 'rest' })).status).toBe(200);
    expect(await (await fetch(url)).json()).toMatchObject({ whenLost: 'rest' });
    for (const wrong of [{ ...usual, hands: 3 }, { ...usual, poses: [{ name: 'horn', examples: [[1, 2]] }] }, { ...usual, more: 1 }, []]) {
      const refused = await put(wrong);
      expect(refused.status).toBe(400);
      expect(((await refused.json()) as { problem: { message: string } }).problem.message).toMatch(/\S/);
    }
    await pumice.post('/api/stage', { stage: true });
    expect((await put(usual)).status).toBe(423);
    await pumice.post('/api/stage', { stage: false });
  });
});
