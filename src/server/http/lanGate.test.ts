import { describe, expect, it } from 'vitest';
import { passage } from './lanGate';

const tablet = { surface: 'wheelhouse' };
const pass = { kind: 'pass' };

describe('from the network', () => {
  it('a stranger gets the page to join, what it is made of, and nothing else', () => {
    for (const path of ['/join', '/join/certificate', '/icon.svg', '/_next/static/chunks/a-1.js']) expect(passage('GET', path, null, false)).toEqual(pass);
    expect(passage('POST', '/api/join', null, false)).toEqual(pass);
    for (const path of ['/', '/play/wheelhouse', '/mappings', '/motion', '/listen', '/hands', '/hands/tracker.js', '/hands/model/0.4.1/hands.js', '/joinery', '/join/', '//join']) expect(passage('GET', path, null, false)).toEqual({ kind: 'go', to: '/join' });
    for (const path of ['/api/rig', '/api/health', '/api/surfaces/wheelhouse', '/api/joining', '/api/monitor']) expect(passage('GET', path, null, false)).toMatchObject({ kind: 'refuse', status: 403 });
    for (const path of ['/join', '/api/rigs', '/_next/static/x.js']) expect(passage('POST', path, null, false)).toMatchObject({ kind: 'refuse' });
  });
  it('a joined device gets its own surface, and motion', () => {
    for (const path of ['/play/wheelhouse', '/play/wheelhouse/manifest.webmanifest', '/api/surfaces/wheelhouse', '/motion', '/listen', '/hands', '/hands/tracker.js', '/hands/model/0.4.1/hands.js']) expect(passage('GET', path, tablet, false)).toEqual(pass);
    for (const path of ['/hands/', '/hands/model', '/hands/model/0.4.1/../../api/rig', '/hands/model/0.4.1/hands.js/x', '/hands/model/..%2f/hands.js']) expect(passage('GET', path, tablet, false).kind).toBe('refuse');
    for (const path of ['/', '/play/chart-table', '/play/wheelhouse/..%2f']) expect(passage('GET', path, tablet, false)).toEqual({ kind: 'go', to: '/play/wheelhouse' });
    for (const path of ['/mappings', '/api/rig', '/api/surfaces/chart-table', '/api/surfaces/%77heelhouse']) expect(passage('GET', path, tablet, false)).toMatchObject({ kind: 'refuse' });
    for (const path of ['/play/wheelhouse', '/api/rigs/night-ferry/edits', '/api/stage']) expect(passage('POST', path, tablet, false)).toMatchObject({ kind: 'refuse' });
    expect(passage('GET', '/', { surface: null }, false)).toEqual({ kind: 'go', to: '/motion' });
  });
  it('static files are static files only', () => {
    for (const path of ['/_next/static/../server/app.js', '/_next/static/%2e%2e/x', '/_next/image', '/_next/data/x.json']) expect(passage('GET', path, tablet, false).kind).toBe('refuse');
  });
  it('without TLS, where there is TLS, even a joined device gets no further than the explanation', () => {
    expect(passage('GET', '/join', tablet, true)).toEqual(pass);
    for (const [method, path] of [['GET', '/play/wheelhouse'], ['POST', '/api/join'], ['GET', '/api/surfaces/wheelhouse']] as const) expect(passage(method, path, tablet, true)).toEqual({ kind: 'go', to: '/join' });
  });
});
