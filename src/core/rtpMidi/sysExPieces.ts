import { STATUS } from '../midi/message';
import { CANCELLED } from './midiList';

/** SysEx longer than this is not put together, so that one that never ends cannot fill the memory. */
const MOST = 64 * 1024;

/**
 * Cuts a SysEx into pieces that fit into packets (RFC 6295 section 3.2): all but the last end with F0, all but the first begin
 * with F7.
 */
export function sysExPieces(message: Uint8Array, most: number): Uint8Array[] {
  if (message.length <= most) return [message];
  const pieces: Uint8Array[] = [];
  const data = message.subarray(1, message.length - 1);
  const room = most - 2;
  for (let at = 0; at < data.length; at += room) {
    const part = data.subarray(at, at + room);
    const piece = new Uint8Array(part.length + 2);
    piece[0] = at === 0 ? STATUS.sysEx : STATUS.endOfSysEx;
    piece.set(part, 1);
    piece[piece.length - 1] = at + room < data.length ? STATUS.sysEx : STATUS.endOfSysEx;
    pieces.push(piece);
  }
  return pieces;
}

/** Puts pieces of SysEx together again. */
export class SysExJoiner {
  private open: number[] | null = null;

  /** The whole message where this was its last piece; null where more must come, or its beginning is not known. */
  take(piece: Uint8Array): Uint8Array | null {
    const [first, last] = [piece[0]!, piece[piece.length - 1]!];
    const data = piece.subarray(1, piece.length - 1);
    if (first === STATUS.sysEx) this.open = [];
    if (!this.open) return null;
    if (this.open.length + data.length > MOST || last === CANCELLED) {
      this.open = null;
      return null;
    }
    this.open.push(...data);
    if (last === STATUS.sysEx) return null;
    const whole = Uint8Array.of(STATUS.sysEx, ...this.open, STATUS.endOfSysEx);
    this.open = null;
    return whole;
  }

  /** A packet was lost: what is open would have a hole. */
  lost(): void {
    this.open = null;
  }
}
