import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, get, request as ask, type IncomingHttpHeaders } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { pageFiles } from './pageFiles';

const SCRIPT = 'console.log("the ferry leaves at night");\n'.repeat(200);
const folder = mkdtempSync(join(tmpdir(), 'pumice-pages-'));
const secret = join(folder, 'secret.txt');
const built = join(folder, 'static-');
let port = 0;
const server = createServer((request, response) => files(request, response, () => response.writeHead(418).end(`otherwise ${request.url}`)));
let files: ReturnType<typeof pageFiles>;

beforeAll(async () => {
  mkdirSync(join(built, 'chunks'), { recursive: true });
  writeFileSync(secret, 'not for pages');
  writeFileSync(join(built, 'chunks/a.js'), SCRIPT);
  writeFileSync(join(built, 'chunks/a.js.br'), brotliCompressSync(SCRIPT));
  writeFileSync(join(built, 'chunks/a.js.gz'), gzipSync(SCRIPT));
  writeFileSync(join(built, 'chunks/gone.js'), SCRIPT);
  writeFileSync(join(built, 'chunks/gone.js.br'), brotliCompressSync(SCRIPT));
  writeFileSync(join(built, 'letters.woff2'), Buffer.from([1, 2, 3]));
  files = pageFiles(built);
  rmSync(join(built, 'chunks/gone.js'));
  rmSync(join(built, 'chunks/gone.js.br'));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
});

afterAll(() => {
  server.close();
  rmSync(folder, { recursive: true });
});

/** Paths go out as they stand: `fetch` would put them right. */
function fetched(path: string, encoding?: string, method = 'GET'): Promise<{ status: number; headers: IncomingHttpHeaders; body: Buffer }> {
  return new Promise((resolve, reject) => {
    const sent = ask({ port, path, method, agent: false, headers: encoding ? { 'accept-encoding': encoding } : {} }, (response) => {
      const pieces: Buffer[] = [];
      response.on('data', (piece: Buffer) => pieces.push(piece));
      response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, body: Buffer.concat(pieces) }));
    });
    sent.on('error', reject);
    sent.end();
  });
}

test.each([
  ['gzip, deflate, br, zstd', 'br', brotliDecompressSync],
  ['gzip, deflate', 'gzip', gunzipSync],
  [undefined, undefined, (body: Buffer) => body],
])('a browser that takes %s is given %s', async (accepts, encoding, open) => {
  const { status, headers, body } = await fetched('/_next/static/chunks/a.js?dpl=1', accepts);
  expect(status).toBe(200);
  expect(headers['content-encoding']).toBe(encoding);
  expect(headers['content-type']).toMatch(/^text\/javascript/);
  expect(headers['cache-control']).toBe('public, max-age=31536000, immutable');
  expect(headers.vary).toBe('Accept-Encoding');
  expect(open(body).toString()).toBe(SCRIPT);
});

test('a file without a smaller one beside it is given as it is, and the head of one without its body', async () => {
  expect([...(await fetched('/_next/static/letters.woff2', 'br')).body]).toEqual([1, 2, 3]);
  const head = await fetched('/_next/static/chunks/a.js', 'br', 'HEAD');
  expect([head.status, head.headers['content-encoding'], head.body.length]).toEqual([200, 'br', 0]);
});

test('what it has already is not sent again', async () => {
  const { headers } = await fetched('/_next/static/chunks/a.js', 'br');
  const status = await new Promise((resolve) => get({ port, path: '/_next/static/chunks/a.js', agent: false, headers: { 'accept-encoding': 'br', 'if-none-match': headers.etag! } }, (response) => resolve(response.resume().statusCode)));
  expect(status).toBe(304);
});

test.each(['/_next/static/chunks/none.js', '/_next/static/chunks/gone.js', '/_next/static/chunks', '/_next/static/', '/_next/static', '/_next/image', '/play/wheelhouse'])('%s goes on as it came', async (path) => {
  const { status, headers, body } = await fetched(path, 'br');
  expect([status, headers['content-encoding'], body.toString()]).toEqual([418, undefined, `otherwise ${path}`]);
});

test('nothing is posted to a file', async () => {
  expect((await fetched('/_next/static/chunks/a.js', 'br', 'POST')).status).toBe(418);
});

test.each(['/_next/static/../secret.txt', '/_next/static/%2e%2e/secret.txt', '/_next/static/chunks/..%2f..%2fsecret.txt', '/_next/static//../secret.txt', '/_next/static/%', '/_next/static/a%00.js'])('%s leads nowhere', async (path) => {
  const { status, body } = await fetched(path);
  expect(status).toBeGreaterThanOrEqual(400);
  expect(body.toString()).not.toContain('not for pages');
});
