import type { RigOutput } from '../../core/outputs/kinds';
import type { NetworkMidi } from '../network/networkMidi';
import type { NativePorts } from '../ports/nativePorts';
import { DelayedPort } from './delayedPort';
import { LentPort } from './lentPort';
import { LentPorts } from './lentPorts';
import { MidiPort } from './midiPort';
import { NetworkPort } from './networkPort';
import { OscUdp } from './oscUdp';
import { SlowPort } from './slowPort';
import type { OutputSink, SinkEvents } from './sink';
import { StandInReceiver } from './standInReceiver';

/** Opens the way out that a rig describes. */
export type OpenOutput = (output: RigOutput, events: SinkEvents) => OutputSink;

/** Of a hub that has no ports: in tests. */
const NO_PORTS: Pick<NativePorts, 'want'> = {
  want(_, { state }) {
    state('cannot be: there are no ports');
    return { send: () => undefined, close: () => undefined };
  },
};

/** Of one that has no network: in tests. */
const NO_NETWORK: Pick<NetworkMidi, 'want'> = {
  want(_, state) {
    state('cannot be reached: there is no network');
    return { send: () => undefined, close: () => undefined };
  },
};

/** Opens ways out of this program: with a queue before a slow one, and a wait before one that is late on purpose. */
export function opener(ports: Pick<NativePorts, 'want'> = NO_PORTS, lent = new LentPorts(), network: Pick<NetworkMidi, 'want'> = NO_NETWORK): OpenOutput {
  const openKind: OpenOutput = (output, events) => {
    switch (output.kind) {
      case 'standIn':
        return new StandInReceiver(events.heard);
      case 'osc':
        return new OscUdp(output.host, output.port, events);
      case 'port':
        return new MidiPort(ports, { direction: 'out', at: output.device }, events);
      case 'virtual':
        return new MidiPort(ports, { make: output.port }, events);
      case 'page':
        return new LentPort(lent, output.device, events);
      case 'network':
        return new NetworkPort(network, output, events);
      default:
        return output satisfies never;
    }
  };
  return (output, events) => {
    const sink = openKind(output, events);
    const paced = output.bytesPerS === undefined ? sink : new SlowPort(sink, output.bytesPerS);
    return output.delayMs ? new DelayedPort(paced, output.delayMs) : paced;
  };
}
