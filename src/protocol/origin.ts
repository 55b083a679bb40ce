const LOOPBACK_NAMES = new Set(['localhost', '127.0.0.1', '[::1]']);

/** Whether a Host header names this computer at this port; a name that an outside page made up does not. */
export function isOwnHost(host: string | undefined, port: number): boolean {
  if (!host) return false;
  const at = host.lastIndexOf(':');
  const name = at > host.lastIndexOf(']') ? host.slice(0, at) : host;
  const given = at > host.lastIndexOf(']') ? Number(host.slice(at + 1)) : 80;
  return LOOPBACK_NAMES.has(name.toLowerCase()) && given === port;
}

/** Whether an Origin header is a page of ours. No header means no browser page, and so no stranger's page. */
export function isOwnOrigin(origin: string | undefined, port: number): boolean {
  if (origin === undefined) return true;
  return origin.startsWith('http://') && isOwnHost(origin.slice('http://'.length), port);
}

/** Whether a socket's peer is this computer. */
export function isLoopback(address: string | undefined): boolean {
  return address === '::1' || (address?.replace(/^::ffff:/, '').startsWith('127.') ?? false);
}
