/** The names of this computer at its own door. At a door of the network it has one name, the door's address. */
const OWN_NAMES: readonly string[] = ['localhost', '127.0.0.1', '[::1]'];

/** Whether a Host header names this computer at this port; a name that an outside page made up does not. */
export function isOwnHost(host: string | undefined, port: number, names = OWN_NAMES): boolean {
  if (!host) return false;
  const at = host.lastIndexOf(':');
  const hasPort = at > host.lastIndexOf(']');
  return names.includes((hasPort ? host.slice(0, at) : host).toLowerCase()) && (hasPort ? Number(host.slice(at + 1)) : 80) === port;
}

/** Whether an Origin header is a page of ours. No header means no browser page, and so no stranger's page. */
export function isOwnOrigin(origin: string | undefined, port: number, names = OWN_NAMES): boolean {
  if (origin === undefined) return true;
  const [, scheme, host] = /^(https?):\/\/(.+)$/.exec(origin) ?? [];
  return isOwnHost(scheme === 'https' && !/:\d+$/.test(host!) ? `${host}:443` : host, port, names);
}

/** The names under which a door is known: those of this computer, or the one address of a door of the network. */
export const namesAt = (door: { address: string; lan: boolean }): readonly string[] => (door.lan ? [door.address] : OWN_NAMES);

/** Whether a socket's peer is this computer. */
export function isLoopback(address: string | undefined): boolean {
  return address === '::1' || (address?.replace(/^::ffff:/, '').startsWith('127.') ?? false);
}
