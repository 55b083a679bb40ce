/** What of a rig others refer to. `signal` is one of an input or a derived one. */
export type LinkKind = 'input' | 'signal' | 'mapping' | 'stream' | 'member' | 'voiceMapping' | 'scale' | 'receiver' | 'output' | 'surface' | 'page' | 'scene';
