/** Timers of a worker go on while its page is hidden, where the page's own are slowed to one a second. */
const TICK_MS = 16;
setInterval(() => postMessage(null), TICK_MS);
