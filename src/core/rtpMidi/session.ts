/**
 * The packets by which sessions are made and kept: commands of two letters behind a signature that no RTP packet begins with.
 * A convention of computers and tablets, written down nowhere; as Debian's `tshark` dissects it.
 */
export type SessionPacket =
  | { kind: 'invitation' | 'accepted' | 'refused' | 'bye'; token: number; ssrc: number; /** Absent in a bye and mostly where it was refused. */ name?: string }
  /** Three of these measure how far two clocks are apart; tenths of milliseconds, 64 bits. */
  | { kind: 'clock'; ssrc: number; count: number; times: [bigint, bigint, bigint] }
  /** Everything up to this packet has arrived. */
  | { kind: 'feedback'; ssrc: number; sequence: number }
  /** How much the other end wants to be sent at most; nothing here sends so much. */
  | { kind: 'limit' };

const SIGNATURE = 0xffff;
const VERSION = 2;
const COMMANDS = { invitation: 'IN', accepted: 'OK', refused: 'NO', bye: 'BY', clock: 'CK', feedback: 'RS', limit: 'RL' } as const;
const KINDS = new Map<string, SessionPacket['kind']>(Object.entries(COMMANDS).map(([kind, letters]) => [letters, kind as SessionPacket['kind']]));
const HEADER_BYTES = 4;
const MEETING_BYTES = 16;
const CLOCK_BYTES = 36;
const FEEDBACK_BYTES = 12;
/** Bytes of a name: longer ones are cut. */
const NAME_MOST = 128;

export const isSessionPacket = (bytes: Uint8Array): boolean => bytes.length >= HEADER_BYTES && bytes[0] === 0xff && bytes[1] === 0xff;

export function encodeSession(packet: Exclude<SessionPacket, { kind: 'limit' }>): Uint8Array {
  const begin = (length: number) => {
    const bytes = new Uint8Array(length);
    const view = new DataView(bytes.buffer);
    view.setUint16(0, SIGNATURE);
    bytes.set(new TextEncoder().encode(COMMANDS[packet.kind]), 2);
    return { bytes, view };
  };
  if (packet.kind === 'clock') {
    const { bytes, view } = begin(CLOCK_BYTES);
    view.setUint32(4, packet.ssrc);
    view.setUint8(8, packet.count);
    packet.times.forEach((time, i) => view.setBigUint64(12 + 8 * i, BigInt.asUintN(64, time)));
    return bytes;
  }
  if (packet.kind === 'feedback') {
    const { bytes, view } = begin(FEEDBACK_BYTES);
    view.setUint32(4, packet.ssrc);
    // Sixteen bits in the upper half of thirty-two.
    view.setUint16(8, packet.sequence);
    return bytes;
  }
  const name = packet.name === undefined ? new Uint8Array(0) : new TextEncoder().encode(`${packet.name}\0`);
  const { bytes, view } = begin(MEETING_BYTES + name.length);
  view.setUint32(4, VERSION);
  view.setUint32(8, packet.token);
  view.setUint32(12, packet.ssrc);
  bytes.set(name, MEETING_BYTES);
  return bytes;
}

/** Null where it is none of these, is cut short, or is of another version. */
export function decodeSession(bytes: Uint8Array): SessionPacket | null {
  if (!isSessionPacket(bytes)) return null;
  const kind = KINDS.get(String.fromCharCode(bytes[2]!, bytes[3]!));
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  switch (kind) {
    case undefined:
      return null;
    case 'limit':
      return { kind };
    case 'clock':
      if (bytes.length < CLOCK_BYTES) return null;
      return { kind, ssrc: view.getUint32(4), count: view.getUint8(8), times: [view.getBigUint64(12), view.getBigUint64(20), view.getBigUint64(28)] };
    case 'feedback':
      return bytes.length < FEEDBACK_BYTES ? null : { kind, ssrc: view.getUint32(4), sequence: view.getUint16(8) };
    default: {
      if (bytes.length < MEETING_BYTES || view.getUint32(4) !== VERSION) return null;
      const rest = bytes.subarray(MEETING_BYTES, MEETING_BYTES + NAME_MOST);
      const end = rest.indexOf(0);
      const name = new TextDecoder().decode(end < 0 ? rest : rest.subarray(0, end)).replace(/[\p{C}]/gu, '').trim();
      return { kind, token: view.getUint32(8), ssrc: view.getUint32(12), ...(name && { name }) };
    }
  }
}
