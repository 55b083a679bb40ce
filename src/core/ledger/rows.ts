import type { RigDocument } from '../rig/document';
import { findSignal, findStream } from '../rig/find';
import { channelsOf } from '../voices/layout';
import { layoutInWords } from '../voices/layoutWords';
import type { Claim } from './claims';
import { ledgerOf } from './ledger';
import { addressInWords } from '../messages';

/** One line of the ledger as a table: an address, who uses it, and what is to be said of it. */
export interface LedgerRow {
  output: string;
  channel: number | null;
  address: string;
  mapping: string;
  mappingName: string;
  signal: string;
  input: string;
  on: boolean;
  state: 'used' | 'warned' | 'clash';
  remark: string;
}

/** Every mapping and voice mapping of a rig with its address, in the order of outputs and channels, with clashes and warnings in words. */
export function ledgerRows(rig: RigDocument): LedgerRow[] {
  const { clashes, warnings } = ledgerOf(rig);
  const all = [...rig.mappings, ...rig.voiceMappings];
  const remarksOf = (id: string): Pick<LedgerRow, 'state' | 'remark'> => {
    const mine = (claim: Claim) => claim.mapping === id;
    const met = clashes.filter(({ claims }) => claims.some(mine)).flatMap(({ claims }) => claims.filter((claim) => !mine(claim)));
    const others = [...new Set(met.map((claim) => all.find((mapping) => mapping.id === claim.mapping)?.name ?? claim.mapping))];
    const reasons = [...new Set(warnings.filter(({ claim }) => mine(claim)).map(({ reason }) => reason))];
    return { state: others.length > 0 ? 'clash' : reasons.length > 0 ? 'warned' : 'used', remark: others.length > 0 ? `meets ${others.join(', ')}` : reasons.join(', ') };
  };
  const rows = rig.mappings.map((mapping): LedgerRow => {
    const found = findSignal(rig, mapping.signal);
    return {
      output: rig.outputs.find(({ id }) => id === mapping.output)?.name ?? mapping.output,
      channel: 'channel' in mapping.message ? mapping.message.channel : null,
      address: addressInWords(mapping.message),
      mapping: mapping.id,
      mappingName: mapping.name,
      signal: found?.signal.name ?? mapping.signal,
      input: found?.from ?? '',
      on: mapping.on,
      ...remarksOf(mapping.id),
    };
  });
  const voices = rig.voiceMappings.map((mapping): LedgerRow => {
    const stream = findStream(rig, mapping.stream);
    return {
      output: rig.outputs.find(({ id }) => id === mapping.output)?.name ?? mapping.output,
      channel: channelsOf(mapping.layout)[0] ?? null,
      address: layoutInWords(mapping.layout),
      mapping: mapping.id,
      mappingName: mapping.name,
      signal: stream?.name ?? mapping.stream,
      input: stream?.from ?? '',
      on: mapping.on,
      ...remarksOf(mapping.id),
    };
  });
  return [...rows, ...voices].sort((a, b) => a.output.localeCompare(b.output) || (a.channel ?? 0) - (b.channel ?? 0) || a.address.localeCompare(b.address, 'en', { numeric: true }));
}
