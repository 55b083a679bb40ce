const FNV_PRIME = 0x01000193;
const FNV_BASIS = 0x811c9dc5;
/** Odd, for a second hash that goes another way (the golden ratio times 2^32, as common in hashing). */
const OTHER_PRIME = 0x9e3779b1;

/**
 * A number that stands for the bytes of a message: two messages with the same are the same, but for one pair in 2^53. Two hashes in one, the
 * first FNV-1a of 32 bits (Fowler, Noll and Vo). Text would be exact, and take microseconds for a packet of OSC.
 */
export function fingerprint(bytes: Uint8Array): number {
  let a = FNV_BASIS;
  let b = bytes.length;
  for (let i = 0; i < bytes.length; i++) {
    a = Math.imul(a ^ bytes[i]!, FNV_PRIME);
    b = Math.imul(b ^ bytes[i]!, OTHER_PRIME);
    b ^= b >>> 15;
  }
  return (a >>> 0) * 2 ** 21 + (b >>> 11);
}
