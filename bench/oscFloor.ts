/**
 * The floor of OSC in: a process that receives each datagram, decodes it with the bare package and writes three bytes; argv: `first` where
 * the system is to run it before others, as it does the hub.
 */
import { createSocket } from 'node:dgram';
import { decode } from 'node-osc';
import { comeFirst } from '../src/hub/priority';

if (process.argv[2] === 'first') comeFirst();

const socket = createSocket('udp4');
const out = new Uint8Array(3);
let received = 0;
socket.on('message', (packet, { port, address }) => {
  received++;
  const { args } = decode(packet) as unknown as { args: { value: number }[] };
  out[0] = 0xb0;
  out[1] = 1;
  out[2] = Math.round(args[0]!.value * 127);
  // A packet of two numbers wants an answer: the round trip of a bare loop.
  if (args.length === 2) socket.send(packet, port, address);
});
process.on('message', () => {
  process.send!({ received, cpuMs: process.cpuUsage().user / 1000 + process.cpuUsage().system / 1000 });
  received = 0;
});
process.on('disconnect', () => process.exit(0));
socket.bind(0, '127.0.0.1', () => {
  socket.setRecvBufferSize(4 * 1024 * 1024);
  process.send!({ port: socket.address().port });
});
