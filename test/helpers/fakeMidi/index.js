// A MIDI system that is a folder: `ports.json` lists what is there, `ID.log` gets what was written to a port, a line of hex a
// message. A port may take long to open, fail while it is written to, or take nothing any more and block whoever writes; what it was
// given may be on its way for a while, and is lost where any port closes meanwhile.
import { appendFileSync, existsSync, readFileSync, statSync } from 'node:fs';
import { EventEmitter } from 'node:events';
import { join } from 'node:path';

const FOLDER = process.env.PUMICE_FAKE_MIDI;
const CLOSED = join(FOLDER, 'closed.log');
const closings = () => (existsSync(CLOSED) ? statSync(CLOSED).size : 0);
const waitFor = (ms) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);

class Port extends EventEmitter {
  opened = null;

  get list() {
    return JSON.parse(readFileSync(join(FOLDER, 'ports.json'), 'utf8'))[this.side];
  }
  getPortCount() {
    return this.list.length;
  }
  getPortName(i) {
    return this.list[i].name;
  }
  openPort(i) {
    const port = this.list[i];
    if (port.opensAfterMs) waitFor(port.opensAfterMs);
    if (port.refuses) throw new Error('it is in use by another program');
    this.opened = port;
  }
  openVirtualPort(name) {
    this.opened = { id: `virtual-${name}` };
  }
  ignoreTypes() {}
  closePort() {
    appendFileSync(CLOSED, '.');
    this.opened = null;
  }
  destroy() {}
  sendMessage(message) {
    if (this.opened.blocks) waitFor(Infinity);
    if (this.opened.takesMs) waitFor(this.opened.takesMs);
    if (this.opened.fails) throw new Error('it failed');
    const { id, onTheWayMs } = this.opened;
    const before = closings();
    const arrive = () => appendFileSync(join(FOLDER, `${id}.log`), `${message.map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ')}\n`);
    if (onTheWayMs) setTimeout(() => closings() === before && arrive(), onTheWayMs);
    else arrive();
  }
}

export class Input extends Port {
  side = 'inputs';
}
export class Output extends Port {
  side = 'outputs';
}
