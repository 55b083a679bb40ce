import { networkInterfaces } from 'node:os';

/**
 * The IPv4 addresses under which other devices may reach this computer, those of private networks (RFC 1918) first.
 * @param chosen where there are several networks: those to be used, by address
 */
export function lanAddresses(chosen: readonly string[], interfaces = networkInterfaces()): string[] {
  if (chosen.length > 0) return [...chosen];
  const found = Object.values(interfaces).flatMap((addresses = []) => addresses.flatMap(({ family, internal, address }) => (family === 'IPv4' && !internal ? [address] : [])));
  return [...new Set(found)].sort((a, b) => Number(isPrivate(b)) - Number(isPrivate(a)));
}

const isPrivate = (address: string) => /^(10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.)/.test(address);
