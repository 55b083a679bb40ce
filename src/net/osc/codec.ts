import { decode, encode, Message } from 'node-osc';
import { fromBuffer, type OscArgOutputOrArray, type OscPacketOutput } from 'osc-min';
import type { OscSent } from '../../core/messages/osc';

/**
 * The one module that knows the OSC packages. Addresses and arguments go in and come out as plain data. The quick package
 * reads the common types (i f s b T F N m); packets with others go to the one that reads them all (h t d S c r I [ ]).
 */
export interface OscMessage {
  address: string;
  /** Numbers, strings, true, false, null, bytes; arrays opened in place. */
  arguments: OscValue[];
  /** From a bundle's time tag: when it is meant, in ms since 1970; 0 for now. */
  atMs: number;
}

export type OscValue = number | string | boolean | null | Uint8Array;

/** How deep bundles may lie in bundles; deeper ones are refused as broken. */
const DEEPEST = 16;

export function encodeOsc(address: string, args: readonly OscSent[]): Uint8Array {
  return encode(new Message(address, ...args));
}

/** The messages of a packet, bundles opened, in order. Throws where the packet is broken. */
export function decodeOsc(packet: Uint8Array): OscMessage[] {
  const messages: OscMessage[] = [];
  let quick: Quick;
  try {
    quick = decode(Buffer.isBuffer(packet) ? packet : Buffer.from(packet.buffer, packet.byteOffset, packet.byteLength)) as unknown as Quick;
  } catch (error) {
    if (!(error as Error).message.startsWith("I don't understand the argument code")) throw error;
    openWide(fromBuffer(packet), messages, 0, 0);
    return messages;
  }
  openQuick(quick, messages, 0, 0);
  return messages;
}

/** What the quick package gives: whole seconds since 1970 and fractions in `timetag`, 0 for now. */
type Quick = { oscType: 'message'; address: string; args: { value: OscValue }[] } | { oscType: 'bundle'; timetag: number; elements: Quick[] };

function openQuick(quick: Quick, into: OscMessage[], depth: number, atMs: number): void {
  mustBeShallow(depth);
  if (quick.oscType === 'message') {
    into.push({ address: quick.address, arguments: quick.args.map(({ value }) => value), atMs });
    return;
  }
  for (const element of quick.elements) openQuick(element, into, depth + 1, quick.timetag * 1000);
}

function openWide(decoded: OscPacketOutput, into: OscMessage[], depth: number, atMs: number): void {
  mustBeShallow(depth);
  if (decoded.oscType === 'message') {
    into.push({ address: decoded.address, arguments: decoded.args.flatMap(plain), atMs });
    return;
  }
  for (const element of decoded.elements) openWide(element, into, depth + 1, msOfTimeTag(decoded.timetag));
}

/** An argument as plain data. A colour, a time or MIDI bytes are no numbers: they are kept as words or bytes, to be shown. */
function plain(argument: OscArgOutputOrArray): OscValue[] {
  switch (argument.type) {
    case 'array':
      return argument.value.flatMap(plain);
    case 'bigint':
      return [Number(argument.value)];
    case 'blob':
      return [new Uint8Array(argument.value.buffer, argument.value.byteOffset, argument.value.byteLength)];
    case 'midi':
      return [Uint8Array.from(argument.value)];
    case 'timetag':
      return [new Date(msOfTimeTag(argument.value)).toISOString()];
    case 'color':
      return [`rgba ${argument.value.red} ${argument.value.green} ${argument.value.blue} ${argument.value.alpha}`];
    case 'bang':
      return [true];
    default:
      return [argument.value];
  }
}

const SECONDS_1900_TO_1970 = 2_208_988_800;

/** Seconds since 1900 and 1/2^32 seconds; the tag 1, which means now, gives 0. */
function msOfTimeTag([seconds, fraction]: readonly [number, number]): number {
  return seconds === 0 ? 0 : (seconds - SECONDS_1900_TO_1970 + fraction / 2 ** 32) * 1000;
}

function mustBeShallow(depth: number): void {
  if (depth > DEEPEST) throw new Error(`bundles lie more than ${DEEPEST} deep`);
}
