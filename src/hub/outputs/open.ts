import type { RigOutput } from '../../core/rig/document';
import type { Heard } from '../../protocol/frames';
import { OscUdp } from './oscUdp';
import { SlowPort } from './slowPort';
import type { OutputSink } from './sink';
import { StandInReceiver } from './standInReceiver';

/** Opens the way out that a rig describes; a slow one gets a queue before it. */
export function openOutput(output: RigOutput, onHeard: (heard: Heard) => void): OutputSink {
  const sink = openKind(output, onHeard);
  return output.bytesPerS === undefined ? sink : new SlowPort(sink, output.bytesPerS);
}

function openKind(output: RigOutput, onHeard: (heard: Heard) => void): OutputSink {
  switch (output.kind) {
    case 'standIn':
      return new StandInReceiver(onHeard);
    case 'osc':
      return new OscUdp(output.host, output.port);
    default:
      return output satisfies never;
  }
}
