import { createSocket } from 'node:dgram';
import { bareGrid } from './grid';

/**
 * A process that only hears: when each voice began that comes here as OSC, by the address above its `/on`, and meanwhile, on the same event loop,
 * a bare grid. Nothing that makes the load holds it up.
 */
const ON = Buffer.from('/on');
const everyMs = Number(process.argv[2]);
const begins = new Map<string, number[]>();
const socket = createSocket('udp4');
socket.on('message', (packet) => {
  const nowMs = performance.now();
  const end = packet.indexOf(0);
  if (!packet.subarray(end - ON.length, end).equals(ON)) return;
  const address = packet.toString('latin1', 0, end - ON.length);
  const times = begins.get(address);
  if (times) times.push(nowMs);
  else begins.set(address, [nowMs]);
});
socket.bind(0, '127.0.0.1', () => process.send!(socket.address().port));
process.on('message', (forMs: number) => {
  begins.clear();
  void bareGrid(everyMs, forMs).then((bare) => process.send!({ bare, begins: Object.fromEntries(begins) }));
});
process.on('disconnect', () => process.exit(0));
