import { decode, encode, Message } from 'node-osc';
import type { OscArgument } from '../../core/rig/document';

/** The one module that knows the OSC package. Addresses and arguments go in and come out as plain data. */
export interface OscMessage {
  address: string;
  arguments: unknown[];
}

/** How deep bundles may lie in bundles; deeper ones are refused as broken. */
const DEEPEST = 16;

export function encodeOsc(address: string, args: readonly { type: string; value: number | string }[]): Uint8Array {
  return encode(new Message(address, ...args));
}

/** The arguments of a mapping's message, its value in the places for it. */
export function fillArguments(args: readonly OscArgument[], value: number): { type: string; value: number | string }[] {
  return args.map(({ type, value: fixed }) => {
    const filled = fixed === 'value' && type !== 's' ? value : fixed;
    return { type, value: type === 'i' && typeof filled === 'number' ? Math.round(filled) : filled };
  });
}

/** The messages of a packet, bundles opened, in order. Throws where the packet is broken. */
export function decodeOsc(packet: Uint8Array): OscMessage[] {
  const messages: OscMessage[] = [];
  open(decode(Buffer.from(packet.buffer, packet.byteOffset, packet.byteLength)), messages, 0);
  return messages;
}

interface Decoded {
  oscType: 'message' | 'bundle';
  address: string;
  args: unknown[];
  elements: Decoded[];
}

function open(decoded: object, into: OscMessage[], depth: number): void {
  const { oscType, address, args, elements } = decoded as Decoded;
  if (depth > DEEPEST) throw new Error(`bundles lie more than ${DEEPEST} deep`);
  if (oscType === 'bundle') for (const element of elements) open(element, into, depth + 1);
  else into.push({ address, arguments: args.map((argument) => (typeof argument === 'object' && argument !== null && 'value' in argument ? argument.value : argument)) });
}
