import { fork } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { WebSocket } from 'ws';
import type { RigDocument, RigMapping } from '../src/core/rig/document';
import type { Pumice } from '../test/helpers/pumice';

/** A rig that is open whose one mapping comes back here as a datagram, and a bare `ws` echo to hold beside it. */
export interface ByteTrip {
  /** Called for each datagram. */
  onByte: (packet: Buffer) => void;
  onEcho: () => void;
  echo(frame: ArrayBuffer): void;
  close(): void;
}

/** @param signal what the mapping is of */
export async function openByteTrip(pumice: Pumice, rig: RigDocument, signal: string): Promise<ByteTrip> {
  const udp = createSocket('udp4');
  await new Promise<void>((resolve) => udp.bind(0, '127.0.0.1', resolve));
  const mapping: RigMapping = { id: 'trip', name: 'Trip', on: true, signal, shaping: {}, output: 'here', message: { kind: 'osc', address: '/trip', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] } };
  const document: RigDocument = { ...rig, outputs: [...rig.outputs, { id: 'here', name: 'Here', kind: 'osc', receiver: 'here', host: '127.0.0.1', port: udp.address().port }], mappings: [mapping] };
  const { answer } = await pumice.post('/api/rigs', document);
  await pumice.post(`/api/rigs/${(answer as unknown as { id: string }).id}/open`, {});
  const echoProcess = fork('bench/echo.ts', { execArgv: ['--import', 'tsx'] });
  const port = await new Promise<number>((resolve) => echoProcess.once('message', (message) => resolve(message as number)));
  const echo = new WebSocket(`ws://127.0.0.1:${port}`, { perMessageDeflate: false });
  await new Promise((resolve) => echo.once('open', resolve));
  const trip: ByteTrip = {
    onByte: () => undefined,
    onEcho: () => undefined,
    echo: (frame) => echo.send(frame),
    close() {
      echo.close();
      echoProcess.disconnect();
      udp.close();
    },
  };
  udp.on('message', (packet) => trip.onByte(packet));
  echo.on('message', () => trip.onEcho());
  return trip;
}
