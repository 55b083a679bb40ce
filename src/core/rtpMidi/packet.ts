/**
 * An RTP packet that carries MIDI: RFC 3550 section 5.1 (the fixed header), RFC 6295 section 2.1 (its use) and figure 2 (the
 * header of the command section).
 */
export interface RtpMidiPacket {
  /** 16 bits, one more for each packet. */
  sequence: number;
  /** 32 bits, in tenths of milliseconds of the sender's clock. */
  timestamp: number;
  ssrc: number;
  /** The MIDI list, see `midiList`. */
  list: Uint8Array;
  /** Whether a delta time stands before the first command of the list. */
  startsWithDelta: boolean;
  /** The recovery journal, see `journal`; null where the packet has none. */
  journal: Uint8Array | null;
}

const HEADER_BYTES = 12;
const VERSION_2 = 0x80;
const HAS_EXTENSION = 0x10;
const HAS_PADDING = 0x20;
const MARKER = 0x80;
/** A dynamic payload type, agreed upon by convention. */
export const PAYLOAD_TYPE = 97;
const LONG = 0x80;
const JOURNAL = 0x40;
const DELTA_FIRST = 0x20;
const SHORT_MOST = 0x0f;
/** A list has a length of 12 bits. */
export const LIST_MOST = 0xfff;

export function encodePacket({ sequence, timestamp, ssrc, list, startsWithDelta, journal }: RtpMidiPacket): Uint8Array {
  const isLong = list.length > SHORT_MOST;
  const listAt = HEADER_BYTES + (isLong ? 2 : 1);
  const packet = new Uint8Array(listAt + list.length + (journal?.length ?? 0));
  const view = new DataView(packet.buffer);
  packet[0] = VERSION_2;
  packet[1] = (list.length > 0 ? MARKER : 0) | PAYLOAD_TYPE;
  view.setUint16(2, sequence);
  view.setUint32(4, timestamp);
  view.setUint32(8, ssrc);
  packet[HEADER_BYTES] = (isLong ? LONG : 0) | (journal ? JOURNAL : 0) | (startsWithDelta ? DELTA_FIRST : 0) | (isLong ? list.length >> 8 : list.length);
  if (isLong) packet[HEADER_BYTES + 1] = list.length & 0xff;
  packet.set(list, listAt);
  if (journal) packet.set(journal, listAt + list.length);
  return packet;
}

/** Null where it is none, or one that is cut short. */
export function decodePacket(packet: Uint8Array): RtpMidiPacket | null {
  if (packet.length <= HEADER_BYTES || (packet[0]! & 0xc0) !== VERSION_2 || (packet[1]! & 0x7f) !== PAYLOAD_TYPE) return null;
  const view = new DataView(packet.buffer, packet.byteOffset, packet.byteLength);
  let at = HEADER_BYTES + 4 * (packet[0]! & 0x0f);
  if (packet[0]! & HAS_EXTENSION) {
    if (at + 4 > packet.length) return null;
    at += 4 + 4 * view.getUint16(at + 2);
  }
  const end = packet.length - (packet[0]! & HAS_PADDING ? packet[packet.length - 1]! : 0);
  if (at >= end) return null;
  const flags = packet[at++]!;
  let length = flags & SHORT_MOST;
  if (flags & LONG) {
    if (at >= end) return null;
    length = (length << 8) | packet[at++]!;
  }
  if (at + length > end) return null;
  return {
    sequence: view.getUint16(2),
    timestamp: view.getUint32(4),
    ssrc: view.getUint32(8),
    list: packet.subarray(at, at + length),
    startsWithDelta: (flags & DELTA_FIRST) !== 0,
    journal: flags & JOURNAL ? packet.subarray(at + length, end) : null,
  };
}
