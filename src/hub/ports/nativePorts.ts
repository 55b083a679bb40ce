import { fork, type ChildProcess } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { samePort, type PortIdentity } from '../../core/midi/portName';
import { OPENING } from '../../protocol/live';
import { Rounds } from '../rounds';
import { hubTimeMs } from '../time';
import { FrameReader, frameOf, midiFrame, type FromPorts, type ToPorts } from './frames';

const SCRIPT = fileURLToPath(new URL('./ports.js', import.meta.url));
/** One that says nothing for so long hangs: it is killed and started again. */
const SILENT_MS = 4000;
const AGAIN_MS = 500;
/** A port that hung is left alone for so long, unless it goes and comes back. */
const STUCK_REST_MS = 30_000;
/** A port that would not open is tried again after so long. */
const RETRY_MS = 2000;
const CLOSE_MS = 2000;
/** Bytes that may wait on the way to that process; with more it hangs, and is started again. */
const MOST_WAITING = 1 << 20;

export type PortTarget = { direction: 'in' | 'out'; at: PortIdentity } | { make: string };

/** Somebody who wants a port open whenever it is there. */
export interface PortUser {
  /** Null: it is open. Else why it is not, in a sentence. */
  state(away: string | null): void;
  heard?(bytes: Uint8Array): void;
}

/** A port that is wanted. */
export interface PortHandle {
  send(bytes: Uint8Array): void;
  close(): void;
}

interface Wanted {
  target: PortTarget;
  user: PortUser;
  asked: boolean;
  isOpen: boolean;
  restUntilMs: number;
  away: string | null | undefined;
}

/**
 * The MIDI ports of this computer, held by a process of their own that is started again whenever it dies or hangs. Whoever
 * wants a port has it as long as it is there, and again when it comes back.
 */
export class NativePorts {
  /** The ports of others that are there. */
  inputs: readonly PortIdentity[] = [];
  outputs: readonly PortIdentity[] = [];
  /** Whether this computer has ports at all; null: nobody knows yet. */
  usable: boolean | null = null;
  private child: ChildProcess | null = null;
  private readonly wanted = new Map<number, Wanted>();
  private next = 0;
  private heardMs = 0;
  private readonly rounds = new Rounds(AGAIN_MS);
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  constructor(
    private readonly log: Logger,
    /** Called when other ports are there, or it is known whether there can be any. */
    private readonly onChange: () => void,
  ) {}

  start(): void {
    this.heardMs = hubTimeMs();
    // Ports print what nobody can act on; what matters is said in frames.
    const child = fork(SCRIPT, { stdio: ['ignore', 'ignore', 'ignore', 'pipe', 'pipe', 'ipc'] });
    this.child = child;
    const reader = new FrameReader<FromPorts>(
      // What a process said last may come after its end: it is not there any more.
      (message) => this.child === child && this.hear(message),
      (port, bytes) => this.child === child && this.wanted.get(port)?.user.heard?.(bytes),
    );
    (child.stdio[4] as Readable).on('data', (piece: Buffer) => reader.push(piece));
    (child.stdio[3] as Writable).on('error', () => undefined);
    child.once('exit', (code, signal) => this.died(code, signal));
    this.timer ??= setInterval(() => this.look(), AGAIN_MS);
  }

  /** Wants a port open from now on. */
  want(target: PortTarget, user: PortUser): PortHandle {
    // Numbers are not given again at once: a late word about the one before would be taken for its own.
    do this.next = (this.next + 1) & 0xffff;
    while (this.wanted.has(this.next));
    const port = this.next;
    const wanted: Wanted = { target, user, asked: false, isOpen: false, restUntilMs: 0, away: undefined };
    this.wanted.set(port, wanted);
    this.open(port, wanted);
    return {
      send: (bytes) => {
        const pipe = this.child?.stdio[3] as Writable | undefined;
        if (!wanted.isOpen || !pipe) return;
        if (pipe.writableLength < MOST_WAITING) pipe.write(midiFrame(port, bytes));
        else this.restart();
      },
      close: () => {
        this.wanted.delete(port);
        if (wanted.asked) this.say({ kind: 'close', port });
      },
    };
  }

  /** Ends it once it has written what it was given. */
  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearInterval(this.timer);
    const { child } = this;
    if (!child) return;
    const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
    (child.stdio[3] as Writable).end();
    const patience = setTimeout(() => child.kill('SIGKILL'), CLOSE_MS);
    await gone;
    clearTimeout(patience);
  }

  private say(message: ToPorts): void {
    const pipe = this.child?.stdio[3] as Writable | undefined;
    if (pipe?.writable) pipe.write(frameOf(message));
  }

  private hear(message: FromPorts): void {
    this.heardMs = hubTimeMs();
    switch (message.kind) {
      case 'alive':
        return;
      case 'none':
        this.usable = false;
        this.log.info('this computer has no MIDI ports that can be used');
        return this.changed();
      case 'there':
        this.usable = true;
        this.inputs = message.inputs;
        this.outputs = message.outputs;
        return this.changed();
      case 'opened': {
        const wanted = this.wanted.get(message.port);
        if (!wanted) return;
        wanted.isOpen = true;
        return tell(wanted, null);
      }
      case 'closed':
      case 'stuck': {
        const wanted = this.wanted.get(message.port);
        if (!wanted) return;
        const stuck = message.kind === 'stuck';
        if (stuck) this.log.warn({ target: wanted.target }, 'a MIDI port takes nothing any more: it is closed');
        const why = stuck ? 'takes nothing any more' : !this.isThere(wanted.target) ? 'is not here' : `${wanted.isOpen ? 'was closed' : 'cannot be opened'} (${message.why})`;
        wanted.asked = wanted.isOpen = false;
        wanted.restUntilMs = hubTimeMs() + (stuck ? STUCK_REST_MS : RETRY_MS);
        return tell(wanted, why);
      }
      default:
        return message satisfies never;
    }
  }

  private changed(): void {
    for (const [port, wanted] of this.wanted) this.open(port, wanted);
    this.onChange();
  }

  private isThere(target: PortTarget): boolean {
    if ('make' in target) return this.usable === true;
    return (target.direction === 'in' ? this.inputs : this.outputs).some((port) => samePort(port, target.at));
  }

  /** Opens a port that is wanted, there, and not asked for yet; one that went and came back needs no rest. */
  private open(port: number, wanted: Wanted): void {
    if (wanted.asked) return;
    if (!this.isThere(wanted.target)) {
      wanted.restUntilMs = 0;
      return tell(wanted, this.usable === null ? OPENING : this.usable ? 'is not here' : 'cannot be: this computer has no MIDI system that can be used');
    }
    if (hubTimeMs() < wanted.restUntilMs) return;
    wanted.asked = true;
    tell(wanted, OPENING);
    const { target } = wanted;
    this.say('make' in target ? { kind: 'make', port, name: target.make } : { kind: 'open', port, ...target });
  }

  private look(): void {
    if (!this.rounds.begin()) this.heardMs = hubTimeMs();
    if (this.child && hubTimeMs() - this.heardMs > SILENT_MS) this.restart();
    for (const [port, wanted] of this.wanted) this.open(port, wanted);
  }

  private restart(): void {
    if (!this.child || this.child.killed) return;
    this.log.warn('the process of the MIDI ports hangs: it is started again');
    this.child.kill('SIGKILL');
    this.heardMs = hubTimeMs();
  }

  private died(code: number | null, signal: NodeJS.Signals | null): void {
    this.child = null;
    if (this.closed) return;
    this.log.error({ code, signal }, 'the process of the MIDI ports died; starting it again');
    this.inputs = this.outputs = [];
    for (const wanted of this.wanted.values()) {
      wanted.asked = wanted.isOpen = false;
      tell(wanted, 'is not here');
    }
    this.usable = null;
    this.onChange();
    setTimeout(() => {
      if (!this.closed) this.start();
    }, AGAIN_MS);
  }
}

function tell(wanted: Wanted, away: string | null): void {
  if (wanted.away === away) return;
  wanted.away = away;
  wanted.user.state(away);
}
