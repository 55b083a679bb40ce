/** Every limit on what may come in over a wire or from a file, in one place. */
export const LIMITS = {
  /** Characters of a name that a person gives. */
  nameLength: 80,
  /** Characters of an id. */
  idLength: 64,
  mappings: 5000,
  signals: 5000,
  controlsPerPage: 500,
  pagesPerSurface: 64,
  surfaces: 64,
  outputs: 64,
  inputs: 256,
  scenes: 256,
  sceneMessages: 64,
  /** Signals that one derived signal is made of. */
  sources: 64,
  /** Bytes of a JSON body of a route handler. */
  bodyBytes: 4 * 1024 * 1024,
  /** Bytes of a body that is too large after which it is not even read any more. */
  bodyBytesRead: 64 * 1024 * 1024,
  /** Bytes of one live frame from a page. */
  liveFrameBytes: 16 * 1024,
  /** Bytes of one frame between the web process and the hub, which carries whole rigs. */
  linkFrameBytes: 16 * 1024 * 1024,
  samplesPerFrame: 255,
  /** Bytes that may wait in a watcher's socket before its pictures are thinned. */
  watcherBacklogBytes: 64 * 1024,
  /** Bytes that may wait in any socket before it is closed. */
  socketBacklogBytes: 4 * 1024 * 1024,
  /** Facts a monitor that cannot keep up may hold back before the oldest go (and are counted). */
  monitorBacklog: 20_000,
  /** Bad frames in ten seconds after which a connection is closed. */
  badFramesPerTenSeconds: 200,
  sessions: 64,
  /** How far in the past a page may say that a sample happened, in ms. */
  sampleAgeMs: 250,
} as const;
