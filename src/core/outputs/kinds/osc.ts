import { whole } from '../../messages/shapes';
import type { OutputBase, OutputKind } from './kind';

/** OSC over UDP to one place. */
export interface OscOutput extends OutputBase {
  kind: 'osc';
  /** An IP address. */
  host: string;
  port: number;
}

export const osc: OutputKind<OscOutput> = {
  fields: { host: { is: 'ip' }, port: whole(1, 65535) },
  takes: 'osc',
  words: ({ host, port }) => `OSC to ${host} port ${port}`,
};
