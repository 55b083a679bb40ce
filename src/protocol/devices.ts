import { LIMITS } from './limits';

/** The cookie that a joined device shows; both ports of the program get it, for cookies know no ports. */
export const DEVICE_COOKIE = 'pumice-device';

/** A tablet or phone that has joined. */
export interface JoinedDevice {
  id: string;
  name: string;
  /** The surface given to it; null for its motion sensors alone. */
  surface: string | null;
  /** The size of its window when it joined, in CSS pixels. */
  width: number;
  height: number;
  joinedAtMs: number;
}

/** What the hub must know of a joined device; the token itself is known to the device alone. */
export interface DeviceLeave {
  id: string;
  /** SHA-256 of the token, hex. */
  tokenHash: string;
  surface: string | null;
}

/** The code that lets devices in for a while. */
export interface JoinCode {
  code: string;
  surface: string | null;
  untilMs: number;
  /** How many more devices it lets in. */
  admits: number;
}

/** Where and how devices may join, as the screen Surfaces shows it. */
export interface Joining {
  lan: boolean;
  https: boolean;
  port: number;
  /** Addresses of this computer in the network that it listens on now. */
  addresses: string[];
  /** One sentence for each address that could not be listened on. */
  problems: string[];
  code: JoinCode | null;
  devices: JoinedDevice[];
}

export interface JoinRequest {
  code: string;
  name: string;
  width: number;
  height: number;
}

/** How the line tells a page that this device has not joined, or was dropped: a close code of the private range (RFC 6455, section 7.4.2). */
export const CLOSED_NOT_JOINED = 4401;

export const JOIN = {
  /** A code is good for so long. */
  codeMs: 5 * 60_000,
  /** So many wrong guesses, from wherever, and the code is gone; a guess is right once in a million. */
  wrongGuesses: 20,
  /** Tries from one address in a minute. */
  triesPerMinute: 5,
  devices: LIMITS.sessions,
  /** So many devices one code may let in. */
  admits: 16,
} as const;

/** The value of a cookie in a Cookie header (RFC 6265, section 5.4). */
export function cookieOf(header: string | undefined, cookie: string): string | null {
  for (const pair of header?.split(';') ?? []) {
    const at = pair.indexOf('=');
    if (at > 0 && pair.slice(0, at).trim() === cookie) return pair.slice(at + 1).trim();
  }
  return null;
}
