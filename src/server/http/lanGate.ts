import type { JoinedDevice } from '../../protocol/devices';

/** What happens to a request from the network. */
export type Passage = { kind: 'pass' } | { kind: 'go'; to: string } | { kind: 'refuse'; status: 403; sentence: string };

const PASS: Passage = { kind: 'pass' };
/** What anybody in the network may have: the page to join and what it is made of. */
const FOR_ALL = ['/join', '/api/join', '/join/certificate', '/icon.svg'];
/** What hands are found with. */
const MODEL_FILE = /^\/hands\/model\/[\d.]+\/\w+\.\w+$/;
/** A joined device may play its own surface and nothing else, and be a motion sensor, a microphone or a camera. */
const STRANGER = 'Pumice answers to devices that have joined only: ask the host for a code and open /join.';
const NOT_YOURS = 'This device has joined to play its surface; the rest is for the host alone.';

/**
 * Decides by method, path and who asks. Paths are compared as they stand, nothing decoded: what is not exactly one of the
 * known ones is refused.
 * @param device who asks; null for a stranger
 * @param mustSecure this door has TLS, and the request came without: such a one gets the page that explains it, no more
 */
export function passage(method: string, path: string, device: Pick<JoinedDevice, 'surface'> | null, mustSecure: boolean): Passage {
  const reading = method === 'GET' || method === 'HEAD';
  if (reading && /^\/_next\/static\/[\w./~@-]+$/.test(path) && !path.includes('..')) return PASS;
  if (mustSecure) return reading && FOR_ALL.includes(path) ? PASS : { kind: 'go', to: '/join' };
  if (FOR_ALL.includes(path) && (reading || (method === 'POST' && path === '/api/join'))) return PASS;
  const page = reading && !path.startsWith('/api/');
  if (!device) return page ? { kind: 'go', to: '/join' } : { kind: 'refuse', status: 403, sentence: STRANGER };
  const own = ownPage(device);
  const surface = device.surface === null ? [] : [own, `${own}/manifest.webmanifest`, `/api/surfaces/${encodeURIComponent(device.surface)}`];
  if (reading && (['/motion', '/listen', '/hands', '/hands/tracker.js', ...surface].includes(path) || MODEL_FILE.test(path))) return PASS;
  return page && (path === '/' || path.startsWith('/play/')) ? { kind: 'go', to: own } : { kind: 'refuse', status: 403, sentence: NOT_YOURS };
}

/** Where a joined device belongs. */
export function ownPage({ surface }: Pick<JoinedDevice, 'surface'>): string {
  return surface === null ? '/motion' : `/play/${encodeURIComponent(surface)}`;
}
