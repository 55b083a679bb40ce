import type { OutputBase, OutputKind } from './kind';

/** A simulated instrument inside Pumice. */
export interface StandInOutput extends OutputBase {
  kind: 'standIn';
}

export const standIn: OutputKind<StandInOutput> = {
  fields: {},
  takes: 'midi',
  words: () => 'stand-in',
};
