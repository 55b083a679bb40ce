import { REPORT_LENGTH } from '../../inputs/kinds/kind';
import { optional } from '../../messages/shapes';
import type { OutputBase, OutputKind } from './kind';

/** A session of network MIDI of this computer: all who are in it, or one of them alone. */
export interface NetworkOutput extends OutputBase {
  kind: 'network';
  session: string;
  peer?: string;
}

const word = { is: 'text', most: REPORT_LENGTH, pattern: { expression: /\S/, words: 'a word' } } as const;

export const network: OutputKind<NetworkOutput> = {
  fields: { session: word, peer: optional(word) },
  takes: 'midi',
  words: ({ session, peer }) => (peer === undefined ? `everybody in the network session ${session}` : `${peer}, over the network`),
};
