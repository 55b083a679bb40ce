import { REPORT_LENGTH } from '../../inputs/kinds/kind';
import type { OutputBase, OutputKind } from './kind';

/** A port that Pumice makes, and that other programs of this computer see as a MIDI device of that name. */
export interface VirtualOutput extends OutputBase {
  kind: 'virtual';
  port: string;
}

export const virtual: OutputKind<VirtualOutput> = {
  fields: { port: { is: 'text', most: REPORT_LENGTH, pattern: { expression: /\S/, words: 'a word' } } },
  takes: 'midi',
  words: ({ port }) => `virtual port ${port}`,
};
