/**
 * Of several windows of one browser one alone reads the gamepads, for each would bring them again: one that is in view,
 * since browsers stop reading in a hidden one. A window that comes into view asks for the turn; the one that has it gives
 * it up when it is hidden and another asks, and keeps it where nobody does.
 */
export class ReaderTurn {
  private readonly channel = 'BroadcastChannel' in globalThis ? new BroadcastChannel(READER) : null;
  private asking: AbortController | null = null;
  private giveUp: (() => void) | null = null;
  private stopped = false;

  constructor(
    private readonly begin: () => void,
    /** Ends reading; done once the hub knows, for the next window brings the same pads. */
    private readonly end: () => Promise<void>,
  ) {}

  start(): void {
    // Pages that are not secure have no locks; those are seldom opened twice.
    if (!navigator.locks) {
      this.giveUp = () => void this.end();
      return this.begin();
    }
    document.addEventListener('visibilitychange', this.visibility);
    if (this.channel) this.channel.onmessage = () => document.hidden && this.giveUp?.();
    if (!document.hidden) this.ask();
  }

  stop(): void {
    this.stopped = true;
    document.removeEventListener('visibilitychange', this.visibility);
    this.channel?.close();
    this.asking?.abort();
    this.giveUp?.();
  }

  private readonly visibility = (): void => {
    if (!document.hidden) return this.ask();
    if (!this.giveUp) return this.asking?.abort();
    void navigator.locks.query().then(({ pending = [] }) => {
      if (document.hidden && pending.some(({ name }) => name === READER)) this.giveUp?.();
    });
  };

  private ask(): void {
    if (this.giveUp || (this.asking && !this.asking.signal.aborted)) return;
    const asking = new AbortController();
    this.asking = asking;
    const held = navigator.locks.request(READER, { signal: asking.signal }, () => {
      this.asking = null;
      // Hidden since it asked, or closed: the next one's turn.
      if (this.stopped || document.hidden) return undefined;
      this.begin();
      return new Promise<void>((resolve) => {
        this.giveUp = () => {
          this.giveUp = null;
          void this.end().then(resolve);
        };
      });
    });
    // Hidden for a moment only, while another already had its turn: back into the line.
    void held.then(
      () => !this.stopped && !document.hidden && this.ask(),
      () => undefined,
    );
    this.channel?.postMessage('asking');
  }
}

const READER = 'pumice gamepads';
