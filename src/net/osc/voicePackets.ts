import { heldByOsc } from '../../core/voices/oscVoices';
import { decodeOsc, encodeOsc } from './codec';

/** What a packet begins or ends, and the packet that will end it; null where it ended. */
export interface HeldByPacket {
  held: string;
  end: Uint8Array | null;
}

/** What a packet that left of voices leaves held at its receiver; null where it only moves something, or cannot be read. */
export function heldByPacket(packet: Uint8Array): HeldByPacket | null {
  const message = read(packet);
  const found = message && heldByOsc(message.address, Number(message.arguments[0]), Number(message.arguments[1]));
  return found && { held: found.held, end: found.end && encodeOsc(found.end.path, found.end.args) };
}

/** A take may come from anywhere, and hold anything. */
function read(packet: Uint8Array): ReturnType<typeof decodeOsc>[number] | null {
  try {
    return decodeOsc(packet)[0] ?? null;
  } catch {
    return null;
  }
}
