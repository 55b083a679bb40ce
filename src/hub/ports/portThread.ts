import { parentPort, workerData } from 'node:worker_threads';
import { identify, samePort } from '../../core/midi/portName';
import type { Opening } from './opening';
import { LEFT_OUT, WRITTEN } from './shared';
import { inTurn } from './turn';

/**
 * One open MIDI port, in a thread of its own: a port that takes long to open, or takes nothing any more, holds up nobody else.
 * It is told the bytes to write, or tells those that it hears; `shared` counts what was written.
 */
const { opening, shared, turn } = workerData as { opening: Opening; shared: Int32Array; turn: Int32Array };
const { Input, Output } = await import('@julusian/midi');

const port = opening.direction === 'in' ? new Input() : new Output();
inTurn(turn, () => {
  try {
    open();
  } catch (error) {
    // Else the system would keep what was made for it.
    port.destroy();
    throw error;
  }
});
if (port instanceof Input) port.on('message', (_deltaS, message) => parentPort!.postMessage(Uint8Array.from(message)));
parentPort!.on('message', (bytes: Uint8Array | null) => {
  if (bytes === null) {
    inTurn(turn, () => {
      port.closePort();
      port.destroy();
    });
    // A closed input would keep the thread alive. This ends the thread alone.
    process.exit(0);
  }
  if (port instanceof Output && Atomics.load(shared, LEFT_OUT) === 0) port.sendMessage(Array.from(bytes));
  Atomics.add(shared, WRITTEN, 1);
});
parentPort!.postMessage('opened');

function open(): void {
  if (opening.make) return port.openVirtualPort(opening.make);
  const names = Array.from({ length: port.getPortCount() }, (_, i) => port.getPortName(i));
  const place = identify(names, process.platform).findIndex((there) => samePort(there, opening.at));
  if (place < 0) throw new Error('it is not there any more');
  if (port instanceof Input) port.ignoreTypes(false, false, false);
  port.openPort(place);
}
