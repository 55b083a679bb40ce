import { messageLength } from '../midi/decode';
import { STATUS } from '../midi/message';

/** A command of a list: a whole message, or a piece of a SysEx (see `sysExPieces`), and how long after the packet's time. */
export interface ListedCommand {
  bytes: Uint8Array;
  afterTicks: number;
}

/** The ends of pieces of SysEx that are no F7 (RFC 6295 section 3.2): cancelled, or ended by what followed. */
export const CANCELLED = 0xf4;
export const DROPPED_END = 0xf5;
const MORE_DELTA = 0x80;
/** A delta time has at most four octets (RFC 6295 section 3.1). */
const DELTA_OCTETS = 4;

/** A MIDI list of commands that all happen at the time of their packet, each with its own status byte (RFC 6295 section 3). */
export function encodeList(commands: readonly Uint8Array[]): Uint8Array {
  if (commands.length === 0) return new Uint8Array(0);
  const list = new Uint8Array(commands.reduce((sum, { length }) => sum + length + 1, -1));
  let at = 0;
  for (const command of commands) {
    // A delta time of 0 stands before all commands but the first, which needs none.
    if (at > 0) list[at++] = 0;
    list.set(command, at);
    at += command.length;
  }
  return list;
}

/** The commands of a list, running status filled in; null where it is none. */
export function decodeList(list: Uint8Array, startsWithDelta: boolean): ListedCommand[] | null {
  const commands: ListedCommand[] = [];
  let at = 0;
  let status = 0;
  let afterTicks = 0;
  for (let isFirst = true; at < list.length; isFirst = false) {
    if (!isFirst || startsWithDelta) {
      let delta = 0;
      let octets = 0;
      do {
        if (at >= list.length || octets === DELTA_OCTETS) return null;
        delta = (delta << 7) | (list[at]! & 0x7f);
        octets++;
      } while (list[at++]! & MORE_DELTA);
      afterTicks += delta;
      // A list may end with a delta time.
      if (at === list.length) break;
    }
    const first = list[at]!;
    if (first === STATUS.sysEx || first === STATUS.endOfSysEx) {
      const end = sysExEnd(list, at);
      if (end < 0) return null;
      commands.push({ bytes: list.slice(at, end), afterTicks });
      at = end;
      status = 0;
      continue;
    }
    const isStatus = first >= 0x80;
    const of = isStatus ? first : status;
    const length = messageLength(of);
    if (of === 0 || length === 0) return null;
    const dataAt = isStatus ? at + 1 : at;
    const end = dataAt + length - 1;
    if (end > list.length) return null;
    const bytes = new Uint8Array(length);
    bytes[0] = of;
    for (let i = dataAt; i < end; i++) {
      if (list[i]! >= 0x80) return null;
      bytes[1 + i - dataAt] = list[i]!;
    }
    commands.push({ bytes, afterTicks });
    at = end;
    // Real-time commands leave the running status as it is; other system commands end it.
    if (of < 0xf0) status = of;
    else if (of < STATUS.clock) status = 0;
  }
  return commands;
}

/** Behind the last byte of a piece of SysEx; -1 where it has no end. */
function sysExEnd(list: Uint8Array, start: number): number {
  for (let at = start + 1; at < list.length; at++) {
    const byte = list[at]!;
    if (byte === STATUS.endOfSysEx || byte === STATUS.sysEx || byte === CANCELLED || byte === DROPPED_END) return at + 1;
    if (byte >= 0x80) return -1;
  }
  return -1;
}
