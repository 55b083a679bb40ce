import { ledgerOf } from '../ledger/ledger';
import type { RigDocument, RigMapping } from '../rig/document';
import { findSignal, findStream } from '../rig/find';
import { addressInWords } from '../messages';
import type { RigVoiceMapping } from '../rig/voices';
import { channelsOf } from '../voices/layout';
import { layoutInWords } from '../voices/layoutWords';

/** Which mappings are shown; null fields do not matter. */
export interface Filter {
  /** Words that must all stand somewhere in the name, signal, input, output or address. */
  text: string;
  input: string | null;
  output: string | null;
  channel: number | null;
  state: 'on' | 'off' | 'clash' | 'silent' | null;
}

export const ALL: Filter = { text: '', input: null, output: null, channel: null, state: null };

/** The mappings that a filter lets through, in their order. `isSilent` says which of them were not heard lately. */
export function filtered(rig: RigDocument, { text, input, output, channel, state }: Filter, isSilent: (mapping: string) => boolean = () => true): RigMapping[] {
  const hasWords = wordsIn(text);
  const clashing = clashingOf(rig, state);
  return rig.mappings.filter((mapping) => {
    if (output !== null && mapping.output !== output) return false;
    if (channel !== null && !('channel' in mapping.message && mapping.message.channel === channel)) return false;
    if ((state === 'on' && !mapping.on) || (state === 'off' && mapping.on) || (clashing && !clashing.has(mapping.id)) || (state === 'silent' && !isSilent(mapping.id))) return false;
    const found = findSignal(rig, mapping.signal);
    if (input !== null && !(found && 'input' in found.signal && found.signal.input === input)) return false;
    const where = rig.outputs.find(({ id }) => id === mapping.output)?.name ?? '';
    return hasWords([mapping.name, mapping.group, mapping.remark, found?.signal.name, found?.from, where, addressInWords(mapping.message)]);
  });
}

/** As `filtered`, of the voice mappings. */
export function filteredVoices(rig: RigDocument, { text, input, output, channel, state }: Filter, isSilent: (mapping: string) => boolean = () => true): RigVoiceMapping[] {
  const hasWords = wordsIn(text);
  const clashing = clashingOf(rig, state);
  return rig.voiceMappings.filter((mapping) => {
    if (output !== null && mapping.output !== output) return false;
    if (channel !== null && !channelsOf(mapping.layout).includes(channel)) return false;
    if ((state === 'on' && !mapping.on) || (state === 'off' && mapping.on) || (clashing && !clashing.has(mapping.id)) || (state === 'silent' && !isSilent(mapping.id))) return false;
    const found = findStream(rig, mapping.stream);
    if (input !== null && found?.stream?.input !== input) return false;
    const where = rig.outputs.find(({ id }) => id === mapping.output)?.name;
    return hasWords([mapping.name, mapping.group, mapping.remark, found?.name, found?.from, where, layoutInWords(mapping.layout)]);
  });
}

/** Whether all words of a text stand somewhere in what is given. */
function wordsIn(text: string): (all: readonly (string | undefined)[]) => boolean {
  const words = text.toLowerCase().split(/\s+/).filter((word) => word !== '');
  return (all) => {
    const joined = all.join(' ').toLowerCase();
    return words.every((word) => joined.includes(word));
  };
}

/** The mappings that clash, where these are looked for. */
function clashingOf(rig: RigDocument, state: Filter['state']): ReadonlySet<string> | null {
  return state === 'clash' ? new Set(ledgerOf(rig).clashes.flatMap(({ claims }) => claims.map(({ mapping }) => mapping))) : null;
}
