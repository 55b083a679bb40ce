import type { RigDocument } from '../rig/document';
import { claimsOf, type Claim } from './claims';

/** Several mappings on one address although no merge was chosen. */
export interface Clash {
  key: string;
  claims: Claim[];
}

/** Something that is allowed but seldom meant. */
export interface Warning {
  claim: Claim;
  reason: string;
}

export interface Ledger {
  claims: Claim[];
  clashes: Clash[];
  warnings: Warning[];
}

/** The table of every address in use, with clashes and warnings (engine.md, ledger rules). */
export function ledgerOf(rig: RigDocument): Ledger {
  const claims = claimsOf(rig);
  const byKey = new Map<string, Claim[]>();
  for (const claim of claims) byKey.set(claim.key, [...(byKey.get(claim.key) ?? []), claim]);
  const clashes = [...byKey].flatMap(([key, sharing]) => {
    const chosen = sharing.some(({ merge }) => merge !== null && merge !== 'none');
    const several = new Set(sharing.map(({ owner }) => owner)).size > 1;
    return several && !chosen ? [{ key, claims: sharing }] : [];
  });
  for (const zone of claims.filter(({ kind }) => kind === 'zone')) {
    const others = claims.filter(({ kind, owner, output, channel }) => kind !== 'zone' && owner !== zone.owner && output === zone.output && channel === zone.channel);
    if (others.length > 0) clashes.push({ key: zone.key, claims: [zone, ...others] });
  }
  const parameters = new Set(claims.flatMap(({ kind, output, channel }) => (kind === 'parameter' ? [`${output} ${channel}`] : [])));
  const warnings = claims.flatMap((claim) => {
    const reason = reasonAgainst(claim, parameters);
    return reason ? [{ claim, reason }] : [];
  });
  return { claims, clashes, warnings };
}

/** Why a controller number is seldom a good choice, or null. `parameters`: channels that also use RPN or NRPN. */
function reasonAgainst({ kind, number, output, channel }: Claim, parameters: ReadonlySet<string>): string | null {
  if (kind !== 'controller' || number === null) return null;
  if (parameters.has(`${output} ${channel}`) && PARAMETER_CONTROLLERS.has(number)) return 'RPN and NRPN of this channel use this number';
  return WARNED.get(number) ?? null;
}

const PARAMETER_CONTROLLERS = new Set([6, 38, 98, 99, 100, 101]);

/** Numbers with a meaning of their own (MIDI 1.0, table of control changes) or that receivers often hard-wire. */
const WARNED: ReadonlyMap<number, string> = new Map([
  ...each([0, 32], 'bank select'),
  ...each([6, 38], 'data entry of RPN and NRPN'),
  ...each([96, 97], 'increment and decrement of RPN and NRPN'),
  ...each([98, 99, 100, 101], 'parameter number of RPN and NRPN'),
  ...each([64, 65, 66, 67, 68, 69], 'a pedal'),
  ...each([88], 'velocity prefix'),
  ...each([1, 2, 7, 10, 11, 74], 'receivers often hard-wire it'),
]);

function each(numbers: number[], reason: string): [number, string][] {
  return numbers.map((number) => [number, reason]);
}

/** Controller numbers without a defined meaning, best first (engine.md). */
export const FREE_FIRST: readonly number[] = [...span(20, 31), ...span(102, 119), 3, 9, 14, 15, 85, 86, 87, 89, 90];

/** The controllers of a channel that no mapping uses and nothing speaks against, best first. */
export function freeControllers(rig: RigDocument, output: string, channel: number): number[] {
  const claims = claimsOf(rig).filter((claim) => claim.output === output && claim.channel === channel);
  // All of such a channel belongs to its voices.
  if (claims.some(({ kind }) => kind === 'zone')) return [];
  const used = new Set(
    claims.flatMap((claim) => (claim.kind === 'controller' && claim.output === output && claim.channel === channel ? [claim.number] : [])),
  );
  return FREE_FIRST.filter((number) => !used.has(number));
}

const CHANNELS = span(1, 16);

/** The channels that the receiver of an output listens to. */
export function listenedChannels(rig: RigDocument, output: string): readonly number[] {
  const receiver = rig.receivers.find(({ id }) => id === rig.outputs.find((way) => way.id === output)?.receiver);
  return receiver?.channels ?? CHANNELS;
}

/** Those of them that are not wholly of voices; where none is left, all. */
export function openChannels(rig: RigDocument, output: string, claims = claimsOf(rig)): readonly number[] {
  const listened = listenedChannels(rig, output);
  const ofVoices = new Set(claims.flatMap((claim) => (claim.kind === 'zone' && claim.output === output ? [claim.channel] : [])));
  const open = listened.filter((channel) => !ofVoices.has(channel));
  return open.length > 0 ? open : listened;
}

/** Channel mode messages (MIDI 1.0): no controllers at all. */
export const reservedController = (number: number): boolean => number >= 120;

/** What speaks for or against a channel (common practice, engine.md); null where nothing does. */
export function channelAdvice(channel: number): string | null {
  if (channel === 10) return 'often percussion';
  return channel >= 15 ? 'seldom used by other gear' : null;
}

function span(from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}
