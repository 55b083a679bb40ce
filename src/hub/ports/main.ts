import { Socket } from 'node:net';
import { performance } from 'node:perf_hooks';
import { identify, samePort, type PortIdentity } from '../../core/midi/portName';
import { FrameReader, frameOf, midiFrame, type FromPorts, type ToPorts } from './frames';
import { OpenPort } from './openPort';

/**
 * The process that holds the MIDI ports of this computer for the hub: their libraries may block, print and crash, and none of
 * that may touch what is played elsewhere. It is told over one pipe what to open and what to write, and tells over another.
 */
const LOOK_MS = 500;
/** How long ports may take for what was written last; some libraries take a second to close one. */
const LEAVE_MS = 1500;
/**
 * A port waits for so long after what any of them was given before it was told to close: what is still in a library's hands would be lost,
 * and it is the ends of notes. JACK hands over once a round, and a port that goes changes the order of its rounds, which was seen to take 36 ms.
 */
const ON_THE_WAY_MS = 250;

const out = new Socket({ fd: 4 });
const say = (message: FromPorts) => void out.write(frameOf(message));
const open = new Map<number, OpenPort>();
/** Told to close, and not closed yet. */
const closing = new Set<OpenPort>();
let givenMs = -Infinity;
const finders: Finder[] = [];

const reader = new FrameReader<ToPorts>(
  (message) => {
    if (message.kind === 'close') return close(message.port);
    const { port } = message;
    open.set(
      port,
      new OpenPort(message.kind === 'make' ? { direction: 'out', at: { report: '', slot: 1 }, make: message.name } : { direction: message.direction, at: message.at }, {
        opened: () => say({ kind: 'opened', port }),
        closed: (why) => {
          open.delete(port);
          say({ kind: 'closed', port, why });
        },
        heard: (bytes) => void out.write(midiFrame(port, bytes)),
        overrun() {
          close(port, 'left out');
          say({ kind: 'closed', port, why: 'it takes less than it is given' });
        },
      }),
    );
  },
  (port, bytes) => {
    open.get(port)?.send(bytes);
    givenMs = performance.now();
  },
);
const pipe = new Socket({ fd: 3 });
pipe.on('data', (piece) => reader.push(piece));
// The hub has gone: what it sent last, the ends of notes, is written still.
pipe.on('end', leave);
pipe.on('error', leave);
out.on('error', leave);
process.on('SIGTERM', () => undefined);
process.on('SIGINT', () => undefined);

let leaving = false;
function leave(): void {
  if (leaving) return;
  leaving = true;
  for (const port of [...open.keys()]) close(port);
  const untilMs = performance.now() + LEAVE_MS;
  setInterval(() => {
    // Not `exit`: that would wait for threads that hang.
    if (performance.now() < untilMs && ![...closing].every(({ hasEnded }) => hasEnded)) return;
    for (const finder of finders) finder.destroy();
    process.kill(process.pid, 'SIGKILL');
  }, 5);
}

function close(port: number, how?: 'left out'): void {
  const of = open.get(port);
  open.delete(port);
  if (!of) return;
  closing.add(of);
  // One that went or takes nothing has nothing on its way.
  if (how === 'left out') of.close(how);
  else setTimeout(() => of.close(), Math.max(0, givenMs + ON_THE_WAY_MS - performance.now()));
}

let said = '';

function look(inputFinder: Finder, outputFinder: Finder): void {
  // The ends are being closed one by one: what is listed now is of no use to anybody.
  if (leaving) return;
  const inputs = portsOf(inputFinder);
  const outputs = portsOf(outputFinder);
  const now = JSON.stringify([inputs, outputs]);
  if (now !== said) {
    said = now;
    say({ kind: 'there', inputs, outputs });
  }
  for (const [port, { opening }] of open) {
    if (opening.make || (opening.direction === 'in' ? inputs : outputs).some((there) => samePort(there, opening.at))) continue;
    close(port, 'left out');
    say({ kind: 'closed', port, why: 'it is not there any more' });
  }
  const nowMs = performance.now();
  for (const [port, of] of open) {
    if (!of.isStuck(nowMs)) continue;
    close(port, 'left out');
    say({ kind: 'stuck', port });
  }
  for (const of of closing) {
    if (of.hasEnded) closing.delete(of);
    // A thread that hangs in a library cannot be ended, but its process can: the hub starts another.
    else if (of.hangs(nowMs)) process.kill(process.pid, 'SIGKILL');
  }
  say({ kind: 'alive' });
}

interface Finder {
  getPortCount(): number;
  getPortName(port: number): string;
  destroy(): void;
}

/** The ports of others: those that we made, and the ends of those that we hold, are listed by some systems too. */
function portsOf(finder: Finder): PortIdentity[] {
  const names = Array.from({ length: finder.getPortCount() }, (_, i) => finder.getPortName(i));
  const made = [...open.values(), ...closing].flatMap(({ opening: { make } }) => make ?? []);
  const isOwn = ({ report }: PortIdentity) => /^RtMidi (Out|In)put Client/.test(report) && (/:RtMidi (Out|In)put$/.test(report) || made.some((name) => report.endsWith(`:${name}`)));
  return identify(names, process.platform).filter((port) => !isOwn(port) && !made.includes(port.report));
}

try {
  const { Input, Output } = await import('@julusian/midi');
  const [inputs, outputs] = [new Input(), new Output()];
  finders.push(inputs, outputs);
  look(inputs, outputs);
  setInterval(() => look(inputs, outputs), LOOK_MS);
} catch {
  say({ kind: 'none' });
  // Nothing can be opened: it waits for the hub's end, so that it is not started again and again.
  setInterval(() => say({ kind: 'alive' }), LOOK_MS);
}
