import { readChapters, writeChapters, type Chapters } from './chapters';

/**
 * A recovery journal (RFC 6295 section 5 and figures 8 to 10): the state that a stream has built up since its checkpoint, so
 * that whoever missed packets gets what they changed from any later one. What system commands did is not written here.
 */
export interface Journal {
  /** Nothing in it is of the packet just before: whoever missed that one alone need not look. */
  isOld: boolean;
  /** The first packet, by 16 bits of its number, whose changes are in it. */
  checkpoint: number;
  channels: ChannelJournal[];
}

export interface ChannelJournal extends Chapters {
  /** 0 to 15. */
  channel: number;
  isOld: boolean;
}

const OLD = 0x80;
const HAS_SYSTEM = 0x40;
const HAS_CHANNELS = 0x20;
const HEADER_BYTES = 3;
const CHANNEL_HEADER_BYTES = 3;
/** Lengths have 10 bits. */
const LENGTH_MASK = 0x3ff;

export function encodeJournal({ isOld, checkpoint, channels }: Journal): Uint8Array {
  const bytes: number[] = [(isOld ? OLD : 0) | (channels.length > 0 ? HAS_CHANNELS | (channels.length - 1) : 0), checkpoint >> 8, checkpoint & 0xff];
  for (const of of channels) {
    const { contents, bytes: chapters } = writeChapters(of);
    const length = CHANNEL_HEADER_BYTES + chapters.length;
    bytes.push((of.isOld ? OLD : 0) | (of.channel << 3) | (length >> 8), length & 0xff, contents, ...chapters);
  }
  return Uint8Array.from(bytes);
}

/** Null where it is none, or is cut short. A system journal is passed over. */
export function decodeJournal(bytes: Uint8Array): Journal | null {
  if (bytes.length < HEADER_BYTES) return null;
  const [flags] = bytes as unknown as [number];
  const journal: Journal = { isOld: (flags & OLD) !== 0, checkpoint: (bytes[1]! << 8) | bytes[2]!, channels: [] };
  let at = HEADER_BYTES;
  if (flags & HAS_SYSTEM) {
    if (at + 2 > bytes.length) return null;
    at += ((bytes[at]! << 8) | bytes[at + 1]!) & LENGTH_MASK;
  }
  if (!(flags & HAS_CHANNELS)) return journal;
  for (let left = (flags & 0x0f) + 1; left > 0; left--) {
    if (at + CHANNEL_HEADER_BYTES > bytes.length) return null;
    const length = ((bytes[at]! << 8) | bytes[at + 1]!) & LENGTH_MASK;
    if (length < CHANNEL_HEADER_BYTES || at + length > bytes.length) return null;
    const chapters = readChapters(bytes[at + 2]!, bytes.subarray(at + CHANNEL_HEADER_BYTES, at + length));
    if (!chapters) return null;
    journal.channels.push({ channel: (bytes[at]! >> 3) & 0x0f, isOld: (bytes[at]! & OLD) !== 0, ...chapters });
    at += length;
  }
  return journal;
}
