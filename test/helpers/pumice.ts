import { spawn, type ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sqlite3 from 'sqlite3';
import type { RigDocument } from '../../src/core/rig/document';
import { encodeOsc } from '../../src/net/osc/codec';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/** Stands for an address in a network, for there may be no network here. */
export const LAN_ADDRESS = '127.0.0.2';

export interface Health {
  ok: boolean;
  revision: number;
  stage: boolean;
  supervisor: { pid: number };
  web: { pid: number; port: number };
  hub: { pid: number; port: number; connected: boolean };
}

/** The whole program in a folder and at ports of its own, as `npm run demo` starts it. */
export class Pumice {
  private process: ChildProcess | null = null;
  output = '';
  /** The folder of its built processes. */
  program = 'dist';
  /** The rig that is open. */
  rig = 'night-ferry';

  constructor(
    readonly port: number,
    readonly hubPort: number,
    readonly folder: string,
    readonly oscPort: number,
    /** The first of the two of its session of network MIDI. */
    readonly midiPort: number,
    private readonly more: Record<string, string> = {},
  ) {}

  static async fresh(folder = mkdtempSync(join(tmpdir(), 'pumice-test-')), more: Record<string, string> = {}): Promise<Pumice> {
    const [port, hubPort, oscPort] = await freePorts(3);
    return new Pumice(port!, hubPort!, folder, oscPort!, await freePair(), more);
  }

  get url(): string {
    return `http://localhost:${this.port}`;
  }

  /** Where it is reached from the network, once that is switched on: an address of this machine that is not its first. */
  get lanUrl(): string {
    return `http://${LAN_ADDRESS}:${this.port}`;
  }

  /** Starts it and waits until it says that it runs, or gives the exit code where it ends instead. */
  async start(): Promise<number | null> {
    const child = spawn(process.execPath, [`${this.program}/supervisor.js`], {
      cwd: ROOT,
      env: {
        ...process.env,
        PORT: String(this.port),
        PUMICE_HUB_PORT: String(this.hubPort),
        PUMICE_OSC_PORT: String(this.oscPort),
        PUMICE_MIDI_PORT: String(this.midiPort),
        PUMICE_DATA: this.folder,
        PUMICE_LAN_ADDRESSES: LAN_ADDRESS,
        PUMICE_LOG: 'warn',
        ...this.more,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.process = child;
    this.output = '';
    return new Promise((resolve) => {
      const read = (data: Buffer) => {
        this.output += String(data);
        if (this.output.includes('Pumice is running')) resolve(null);
      };
      child.stdout!.on('data', read);
      child.stderr!.on('data', read);
      child.once('exit', (code) => resolve(code ?? 1));
    });
  }

  /** Starts it; throws with all that it said where it ends instead. */
  async run(): Promise<void> {
    const code = await this.start();
    if (code !== null) throw new Error(`Pumice ended with exit code ${code} instead of starting:\n${this.output}`);
  }

  async stop(): Promise<number | null> {
    return this.end('SIGTERM');
  }

  /** Ends the supervisor and both its children without a word of warning. */
  async killAll(): Promise<void> {
    const { web, hub } = await this.health();
    const gone = this.end('SIGKILL');
    kill(web.pid);
    kill(hub.pid);
    await gone;
    await waitFor('both ports to be free', async () => (await isFree(this.port)) && (await isFree(this.hubPort)));
  }

  async health(): Promise<Health> {
    return (await fetch(`${this.url}/api/health`)).json() as Promise<Health>;
  }

  /** Posts something; what changed the rig, or which of them is open, is played by the hub when this resolves. */
  async post(path: string, body: unknown): Promise<{ status: number; answer: Record<string, never> }> {
    const response = await fetch(`${this.url}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: typeof body === 'string' ? body : JSON.stringify(body),
    });
    const answer = (await response.json()) as Record<string, never>;
    if (response.status === 200 && /\/(edits|undo|redo|open)$/.test(path)) await this.playing();
    return { status: response.status, answer };
  }

  /** The value of a signal in the database, undefined before one was written. */
  writtenValue(signal: string): Promise<number | undefined> {
    return new Promise((resolve, reject) => {
      const database = new sqlite3.Database(join(this.folder, 'pumice.sqlite'), sqlite3.OPEN_READONLY);
      database.get<{ value: number }>('SELECT value FROM signal_values WHERE signalId = ?', signal, (error, row) => {
        database.close();
        if (error) reject(error);
        else resolve(row?.value);
      });
    });
  }

  /** The open rig, once the hub plays it: what is done from then on meets the rig as it is. */
  async playing(): Promise<{ id: string; revision: number; document: RigDocument }> {
    return waitFor('the hub to play the rig as it is', async () => {
      const rig = (await (await fetch(`${this.url}/api/rig`)).json()) as { id: string; revision: number; document: RigDocument };
      const { ok, revision } = await this.health();
      return ok && revision === rig.revision ? rig : null;
    });
  }

  /** Gives an edit to the open rig. */
  give(edit: object): Promise<{ status: number; answer: Record<string, never> }> {
    return this.post(`/api/rigs/${this.rig}/edits`, { edit });
  }

  edit(mapping: string, set: object) {
    return this.give({ kind: 'setMapping', mapping, set });
  }

  /** Says one number over OSC, from this computer. */
  osc(address: string, value: number): Promise<void> {
    const socket = createSocket('udp4');
    return new Promise((resolve) =>
      socket.send(encodeOsc(address, [{ type: 'f', value }]), this.oscPort, '127.0.0.1', () => {
        socket.close();
        resolve();
      }),
    );
  }

  /** Processes of this program that are still there, by their data folder. */
  async leftovers(): Promise<string[]> {
    const holds = (pid: string) => {
      try {
        return readFileSync(`/proc/${pid}/environ`, 'utf8').includes(`PUMICE_DATA=${this.folder}\0`);
      } catch {
        return false;
      }
    };
    return readdirSync('/proc').filter((name) => /^\d+$/.test(name) && holds(name));
  }

  private end(signal: NodeJS.Signals): Promise<number | null> {
    const child = this.process;
    if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve(null);
    const gone = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code)));
    child.kill(signal);
    return gone;
  }
}

export function kill(pid: number): void {
  try {
    process.kill(pid, 'SIGKILL');
  } catch {
    // It was gone already.
  }
}

/** Waits until `probe` gives something true, and gives that back. Throws after `withinMs`. @param pauseMostMs how seldom it is asked at most */
export async function waitFor<T>(what: string, probe: () => T | Promise<T>, withinMs = 25_000, pauseMostMs = 40): Promise<NonNullable<T>> {
  const untilMs = Date.now() + withinMs;
  let last: unknown;
  // Most is there at once; what takes longer is not kept from it by being asked for it.
  for (let pauseMs = 5; Date.now() < untilMs; pauseMs = Math.min(pauseMostMs, pauseMs * 1.5)) {
    try {
      last = await probe();
      if (last) return last as NonNullable<T>;
    } catch (error) {
      last = error;
    }
    await new Promise((resolve) => setTimeout(resolve, pauseMs));
  }
  throw new Error(`Waited ${withinMs} ms for ${what}; last seen: ${String(last)}`);
}

/**
 * Free ports for UDP and TCP below those that the system gives to outgoing connections (from 32768 on Linux): one of
 * those could be taken again between the look and the start. Each worker of the test runners counts in a range of its own.
 */
const RANGE = 1000;
const worker = Number(process.env.VITEST_POOL_ID ?? process.env.TEST_PARALLEL_INDEX ?? 0) % 10;
let next = Math.floor(Math.random() * RANGE);

async function freePorts(count: number): Promise<number[]> {
  const found: number[] = [];
  for (let tried = 0; found.length < count && tried < RANGE; tried++) {
    const port = 20_000 + worker * RANGE + (next++ % RANGE);
    if ((await isFree(port)) && (await isFreeForDatagrams(port))) found.push(port);
  }
  return found;
}

/** The first of two ports for datagrams beside each other, as a session of network MIDI has; even, which some strangers want. */
export async function freePair(): Promise<number> {
  for (;;) {
    const [port] = await freePorts(1);
    if (port! % 2 !== 0) continue;
    // The one after it is given away with it.
    next++;
    if ((await isFreeForDatagrams(port!, LAN_ADDRESS)) && (await isFreeForDatagrams(port! + 1)) && (await isFreeForDatagrams(port! + 1, LAN_ADDRESS))) return port!;
  }
}

function listening(port: number) {
  return new Promise<ReturnType<typeof createServer>>((resolve, reject) => {
    const server = createServer();
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}

async function isFree(port: number): Promise<boolean> {
  try {
    const server = await listening(port);
    await new Promise((resolve) => server.close(resolve));
    return true;
  } catch {
    return false;
  }
}

function isFreeForDatagrams(port: number, address = '127.0.0.1'): Promise<boolean> {
  const socket = createSocket('udp4');
  return new Promise((resolve) => {
    socket.once('error', () => resolve(false));
    socket.bind(port, address, () => socket.close(() => resolve(true)));
  });
}
