import { fork, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';
import type { Logger } from 'pino';
import { isForeign } from './foreignLines';
import type { FromChild, ToChild } from '../protocol/supervision';

const FIRST_RESTART_MS = 50;
const LONGEST_RESTART_MS = 5000;
/** How long a child may take to end its notes and stop. */
const STOP_MS = 3000;

/** One process that is kept running: started again when it dies, sooner or later depending on how often it does. */
export class Child {
  private process: ChildProcess | null = null;
  private restartMs = FIRST_RESTART_MS;
  private stopping = false;

  constructor(
    readonly name: string,
    private readonly script: string,
    private readonly env: NodeJS.ProcessEnv,
    private readonly log: Logger,
    private readonly onMessage: (message: FromChild) => void,
  ) {}

  start(): void {
    const child = fork(this.script, { env: this.env, stdio: ['ignore', 'inherit', 'pipe', 'ipc'] });
    this.process = child;
    // Our own processes log to the other channel; here native libraries speak, and what dies.
    createInterface({ input: child.stderr! }).on('line', (line) => (isForeign(line) ? this.log.debug({ line }, `said beneath the ${this.name} process`) : process.stderr.write(`${line}\n`)));
    child.on('message', (message) => {
      // One that came up was well: when it dies it is started again at once. One that never comes up is given more time.
      if ((message as FromChild).kind === 'ready') this.restartMs = FIRST_RESTART_MS;
      this.onMessage(message as FromChild);
    });
    child.on('exit', (code, signal) => this.died(code, signal));
  }

  /** Asks the child to stop, and makes it where it does not. */
  async stop(): Promise<void> {
    this.stopping = true;
    const child = this.process;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
    const patience = setTimeout(() => child.kill('SIGKILL'), STOP_MS);
    this.send({ kind: 'stop' });
    await gone;
    clearTimeout(patience);
  }

  private send(message: ToChild): void {
    if (this.process?.connected) this.process.send(message);
  }

  private died(code: number | null, signal: NodeJS.Signals | null): void {
    if (this.stopping) return;
    const { restartMs } = this;
    this.restartMs = Math.min(restartMs * 2, LONGEST_RESTART_MS);
    this.log.error({ code, signal, restartMs }, `the ${this.name} process died; starting it again`);
    setTimeout(() => {
      if (!this.stopping) this.start();
    }, restartMs);
  }
}
