import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { Pumice, waitFor } from './pumice';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
/** The folder of a program whose MIDI package speaks to JACK. */
export const PROGRAM = join(ROOT, 'node_modules/.cache/native-ports/dist');
const PEER = join(ROOT, 'test/helpers/midiPeer.py');

/** Whether there is a MIDI system here that tests can use: see `bin/setup/nativePorts`. */
export const hasMidiSystem = existsSync(join(PROGRAM, 'ports.js'));

/** Another program at the MIDI system. */
export class MidiPeer {
  readonly lines: string[] = [];
  /** What it complains of; it may have died of that. */
  private complaints = '';
  /** Told of each line as it comes. */
  onLine: (line: string) => void = () => undefined;

  private constructor(private readonly child: ChildProcess) {
    let rest = '';
    child.stdout!.on('data', (data: Buffer) => {
      const lines = (rest + String(data)).split('\n');
      rest = lines.pop()!;
      this.lines.push(...lines);
      lines.forEach((line) => this.onLine(line));
    });
    child.stderr!.on('data', (data: Buffer) => (this.complaints += String(data)));
  }

  static async open(system: MidiSystem, name: string): Promise<MidiPeer> {
    const peer = new MidiPeer(spawn('/usr/bin/python3', ['-u', PEER, name], { env: system.env, stdio: ['pipe', 'pipe', 'pipe'] }));
    await peer.prints('ready');
    return peer;
  }

  /** Waits for a line that it prints; where it does not, the error says what it complained of. */
  async prints(line: string): Promise<void> {
    await waitFor(`“${line}” of the other end`, () => this.lines.includes(line)).catch((error: Error) => {
      throw new Error(`${error.message} It said: ${this.complaints || 'nothing'} (${this.child.exitCode === null ? 'it runs' : `it ended with ${this.child.exitCode}`})`);
    });
  }

  say(line: string): void {
    this.child.stdin!.write(`${line}\n`);
  }

  /** Ends it. While somebody else is connected a JACK server may hang or die of that: the last thing of a test. */
  async end(): Promise<void> {
    const gone = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.stdin!.end();
    await gone;
  }
}

/** A MIDI system of its own: JACK's server with its dummy driver. */
export class MidiSystem {
  readonly env: NodeJS.ProcessEnv;
  private server: ChildProcess | null = null;

  constructor(readonly name: string) {
    this.env = { ...process.env, JACK_DEFAULT_SERVER: name, JACK_NO_AUDIO_RESERVATION: '1', JACK_NO_START_SERVER: '1' };
  }

  async start(): Promise<void> {
    // Without -S late clients lose messages without a word; without -r it would ask for real-time priority. A client that is late by more than
    // -t is thrown out, and its ports are gone though it has them still: half a second, unless said, is little where both cores are busy.
    let said = '';
    const server = spawn('jackd', ['-r', '-t', '4000', '--name', this.name, '-S', '-d', 'dummy', '-r', '48000', '-p', '64'], { env: this.env, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [server.stdout, server.stderr]) stream.on('data', (data: Buffer) => (said += String(data)));
    this.server = server;
    await waitFor('the MIDI system', async () => {
      if (server.exitCode !== null) throw new Error(`jackd ended: ${said}`);
      return (await this.ports()).length > 0;
    });
  }

  /** The ports that are there now, as the system names them. */
  async ports(): Promise<string[]> {
    const { stdout } = await promisify(execFile)('jack_lsp', [], { env: this.env });
    return stdout.trim().split('\n');
  }

  /** Pumice at this system. */
  async pumice(folder?: string): Promise<Pumice> {
    const pumice = await Pumice.fresh(folder, { JACK_DEFAULT_SERVER: this.name, JACK_NO_START_SERVER: '1' });
    pumice.program = PROGRAM;
    return pumice;
  }

  async stop(): Promise<void> {
    const { server } = this;
    if (!server || server.exitCode !== null) return;
    const gone = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    const patience = setTimeout(() => server.kill('SIGKILL'), 5000);
    await gone;
    clearTimeout(patience);
  }
}
