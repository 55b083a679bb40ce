import { fork, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';
import type { Logger } from 'pino';
import { isForeign } from './foreignLines';
import type { FromChild, Started, ToChild } from '../protocol/supervision';

const FIRST_RESTART_MS = 50;
const LONGEST_RESTART_MS = 5000;
/** How long a child may take to end its notes and stop. */
const STOP_MS = 3000;
/** How often a child that came up is asked whether it goes its rounds. */
const ASK_MS = 1000;
/** One that answered none of so many questions hangs. They are counted, not the time: a computer that slept has asked nothing meanwhile. */
const UNANSWERED_MOST = 60;

/** One process that is kept running: started again when it dies, sooner or later depending on how often it does, and ended where it hangs, so that it is. */
export class Child {
  private process: ChildProcess | null = null;
  private restartMs = FIRST_RESTART_MS;
  private stopping = false;
  /** Questions since it last answered. */
  private unanswered = 0;
  private asking: NodeJS.Timeout | undefined;

  constructor(
    readonly name: string,
    private readonly script: string,
    private readonly env: NodeJS.ProcessEnv,
    private readonly log: Logger,
    private readonly onStarted: (message: Started) => void,
    private readonly askMs = ASK_MS,
  ) {}

  start(): void {
    const child = fork(this.script, { env: this.env, stdio: ['ignore', 'inherit', 'pipe', 'ipc'] });
    this.process = child;
    // Our own processes log to the other channel; here native libraries speak, and what dies.
    createInterface({ input: child.stderr! }).on('line', (line) => (isForeign(line) ? this.log.debug({ line }, `said beneath the ${this.name} process`) : process.stderr.write(`${line}\n`)));
    child.on('message', (message) => this.hear(message as FromChild));
    child.on('exit', (code, signal) => this.died(code, signal));
  }

  private hear(message: FromChild): void {
    this.unanswered = 0;
    if (message.kind === 'alive') return;
    if (message.kind === 'ready') {
      // One that came up was well: when it dies it is started again at once. One that never comes up is given more time.
      this.restartMs = FIRST_RESTART_MS;
      this.asking = setInterval(() => this.ask(), this.askMs);
    }
    this.onStarted(message);
  }

  private ask(): void {
    if (this.unanswered++ < UNANSWERED_MOST) return this.send({ kind: 'alive' });
    clearInterval(this.asking);
    this.log.error(`the ${this.name} process answers nothing any more; it is ended`);
    this.process!.kill('SIGKILL');
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
    clearInterval(this.asking);
    if (this.stopping) return;
    const { restartMs } = this;
    this.restartMs = Math.min(restartMs * 2, LONGEST_RESTART_MS);
    this.log.error({ code, signal, restartMs }, `the ${this.name} process died; starting it again`);
    setTimeout(() => {
      if (!this.stopping) this.start();
    }, restartMs);
  }
}
