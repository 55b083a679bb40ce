import { X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { hostname } from 'node:os';
import { join } from 'node:path';
import type * as Selfsigned from 'selfsigned';

const DAY_MS = 86_400_000;
const AUTHORITY_DAYS = 3650;
/** iOS refuses server certificates that are valid for longer than 825 days (its requirements for trusted certificates, from memory). */
const LEAF_DAYS = 397;
/** Clocks of tablets are not always right. */
const BACKDATE_MS = DAY_MS;
/** An authority that ends sooner than its certificates would is made anew. */
const LEAST_LEFT_MS = LEAF_DAYS * DAY_MS;

/** Loaded when a certificate is made: most starts make none, and three processes would take a fifth of a second longer each. */
const generate: typeof Selfsigned.generate = async (...given: Parameters<typeof Selfsigned.generate>) => (await import('selfsigned')).generate(...given);

/** A key and its certificate, PEM. */
export interface Pem {
  key: string;
  cert: string;
}

/**
 * The authority of this computer, kept in `folder`: devices are told once to trust it, and then trust every certificate
 * made with it. Made when there is none, or when what is there is broken or ends soon.
 */
export async function ensureAuthority(folder: string, nowMs: number): Promise<Pem> {
  const paths = authorityPaths(folder);
  const kept = readAuthority(folder);
  if (kept && Date.parse(new X509Certificate(kept.cert).validTo) - nowMs > LEAST_LEFT_MS) return kept;
  const made = await generate([{ name: 'commonName', value: `Pumice on ${hostname()}` }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(nowMs - BACKDATE_MS),
    notAfterDate: new Date(nowMs + AUTHORITY_DAYS * DAY_MS),
    extensions: [
      { name: 'basicConstraints', cA: true, pathLenConstraint: 0, critical: true },
      { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
    ],
  });
  mkdirSync(paths.folder, { recursive: true, mode: 0o700 });
  // Whoever has this key can pretend to be any site to a device that trusts it: for this user's eyes alone.
  writeFileSync(paths.key, made.private, { mode: 0o600 });
  writeFileSync(paths.cert, made.cert);
  return { key: made.private, cert: made.cert };
}

/** The authority that is kept in the folder, null where there is none that can be read. */
export function readAuthority(folder: string): Pem | null {
  const { key, cert } = authorityPaths(folder);
  if (!existsSync(key) || !existsSync(cert)) return null;
  const pem = { key: readFileSync(key, 'utf8'), cert: readFileSync(cert, 'utf8') };
  try {
    new X509Certificate(pem.cert);
    return pem;
  } catch {
    return null;
  }
}

/** A certificate for this computer under these addresses and as localhost, signed by the authority. */
export async function makeCertificate(authority: Pem, addresses: readonly string[], nowMs: number): Promise<Pem> {
  const made = await generate([{ name: 'commonName', value: 'Pumice' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(nowMs - BACKDATE_MS),
    notAfterDate: new Date(nowMs + LEAF_DAYS * DAY_MS),
    ca: authority,
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      { name: 'subjectAltName', altNames: [{ type: 2, value: 'localhost' }, ...['127.0.0.1', ...addresses].map((ip) => ({ type: 7 as const, ip }))] },
    ],
  });
  return { key: made.private, cert: made.cert };
}

function authorityPaths(dataFolder: string) {
  const folder = join(dataFolder, 'certificate');
  return { folder, key: join(folder, 'authority.key.pem'), cert: join(folder, 'authority.pem') };
}
