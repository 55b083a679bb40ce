/*
 * Loaded into the hub before its own code (`NODE_OPTIONS=--import`): the moment at which each voice that leaves as OSC is written to its
 * socket, by the address above its `/on`; left in a file when the hub ends. Measured from outside, so that the program has nothing of it.
 */
import { Socket } from 'node:dgram';
import { writeFileSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';

const file = process.env.PUMICE_BENCH_WRITES;
if (isMainThread && file && process.argv[1]?.endsWith('hub.js')) {
  const written = {};
  const note = (packet) => {
    if (!Buffer.isBuffer(packet) || packet[0] !== 0x2f) return;
    const path = packet.toString('latin1', 0, packet.indexOf(0));
    if (path.endsWith('/on')) (written[path.slice(0, -3)] ??= []).push(performance.now());
  };
  const { bind } = Socket.prototype;
  let watched = false;
  Socket.prototype.bind = function (...args) {
    // The handle below the socket writes; all of them share one prototype.
    const state = this[Object.getOwnPropertySymbols(this).find(({ description }) => description === 'state symbol')];
    const of = Object.getPrototypeOf(state.handle);
    if (!watched) {
      watched = true;
      const { send } = of;
      of.send = function (request, list, ...rest) {
        note(list[0]);
        return send.call(this, request, list, ...rest);
      };
    }
    return bind.apply(this, args);
  };
  process.on('exit', () => writeFileSync(file, JSON.stringify(written)));
}
