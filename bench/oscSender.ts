/** A process of its own that sends OSC packets at a rate; argv: port, packets a second, ms. Tells how many it sent. */
import { createSocket } from 'node:dgram';
import { encodeOsc } from '../src/net/osc/codec';

const [port, rateHz, lastsMs] = process.argv.slice(2).map(Number) as [number, number, number];
const packets = Array.from({ length: 128 }, (_, i) => encodeOsc('/bench/level', [{ type: 'f', value: i / 127 }]));
const socket = createSocket('udp4');
socket.bind(0, () => {
  socket.setSendBufferSize(4 * 1024 * 1024);
  const startMs = performance.now();
  let sent = 0;
  const step = () => {
    const passedMs = performance.now() - startMs;
    const due = Math.min((passedMs * rateHz) / 1000, (lastsMs * rateHz) / 1000);
    while (sent < due) socket.send(packets[sent++ & 127]!, port, '127.0.0.1');
    if (passedMs < lastsMs) return void setImmediate(step);
    // What is still in the socket goes out before this process does.
    setTimeout(() => {
      process.send!({ sent });
      process.exit(0);
    }, 200);
  };
  step();
});
