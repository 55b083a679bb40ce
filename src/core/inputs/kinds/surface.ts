import type { InputBase, InputKind } from './kind';

/** The fingers on a touch layout. */
export interface SurfaceInput extends InputBase {
  kind: 'surface';
  surface: string;
}

export const surface: InputKind<SurfaceInput> = {
  fields: { surface: { is: 'id', of: 'surface' } },
  words: () => 'Surface',
  canBeAway: false,
};
