import { REPORT_LENGTH } from '../core/inputs/kinds/kind';

/** Every limit on what may come in over a wire or from a file, in one place. */
export const LIMITS = {
  /** Problems of one document that are listed; more are only said to be there. */
  problems: 50,
  /** Characters of a name that a person gives. */
  nameLength: 80,
  /** Shapings and parts that are kept apart from rigs. */
  libraryEntries: 1000,
  /** Of what is written down beside a mapping. */
  remarkLength: 2000,
  /** Characters of an id. */
  idLength: 64,
  /** Characters of what a feed says of itself. */
  reportLength: REPORT_LENGTH,
  mappings: 5000,
  /** Things that one edit may put or take away. */
  changes: 2000,
  signals: 5000,
  controlsPerPage: 500,
  pagesPerSurface: 64,
  surfaces: 64,
  outputs: 64,
  inputs: 256,
  scenes: 256,
  streams: 512,
  voiceMappings: 512,
  members: 16,
  scales: 64,
  /** Degrees of a scale, and keys of its keyboard map. */
  scaleNotes: 1024,
  sceneMessages: 64,
  /** Numbers and words in a rig; and in one thing of it, of which then only the first problem is said. */
  rigNodes: 1_000_000,
  thoroughNodes: 20_000,
  /** Bytes of a rig as JSON: more is not taken in, and no edit makes more of it. */
  rigBytes: 8 * 1024 * 1024,
  /** Bytes of a JSON body of a route handler; of one that carries a whole rig; of one that strangers may send. */
  bodyBytes: 4 * 1024 * 1024,
  rigBodyBytes: 12 * 1024 * 1024,
  strangerBodyBytes: 2 * 1024,
  /** A body that is so many times too large is not even read any more. */
  readOnFactor: 16,
  /** Bytes of one live frame from a page. */
  liveFrameBytes: 32 * 1024,
  /** Bytes of one frame between the web process and the hub, which carries whole rigs. */
  linkFrameBytes: 64 * 1024 * 1024,
  samplesPerFrame: 255,
  /** Voices that one page holds at once. */
  voicesPerClient: 64,
  /** Bytes that may wait in a watcher's socket before its pictures are thinned. */
  watcherBacklogBytes: 64 * 1024,
  /** Bytes that may wait in any socket before it is closed. */
  socketBacklogBytes: 4 * 1024 * 1024,
  /** Facts a monitor that cannot keep up may hold back before the oldest go (and are counted). */
  monitorBacklog: 20_000,
  /** Bad frames in ten seconds after which a connection is closed. */
  badFramesPerTenSeconds: 200,
  sessions: 64,
  /** Of them so many are left to the pages of this computer, and one joined device has at most so many. */
  sessionsOfHost: 24,
  sessionsPerDevice: 4,
  /** What one page may say in a second: messages, and frames of fingers and sensors. Joined devices; pages of this computer. */
  messagesPerSecond: { device: 40, host: 400 },
  framesPerSecond: { device: 3000, host: 20_000 },
  /** Bytes of a message that the monitor shows; a longer one is cut there. */
  factBytes: 4096,
  /** Feeds that are remembered at once; of more OSC senders the longest silent go. */
  feeds: 512,
  /** Sources of one feed, and feeds of one page. */
  sourcesPerFeed: 128,
  feedsPerClient: 16,
  /** MIDI ports that one page lends. */
  lentPorts: 64,
  /** Network MIDI: sessions of this computer, who is in one at once, whom it remembers, who asks at once, and packets in a second of one that is in and of all others. */
  networkSessions: 8,
  networkPeers: 16,
  networkGuests: 100,
  /** Profiles of listening, names of what is taught, and chords of scale degrees: how many, and of how many notes besides. */
  listeningProfiles: 20,
  taughtNameLength: 40,
  chordDegrees: 12,
  chordNotes: 6,
  networkAsking: 8,
  networkPacketsPerSecond: 5000,
  networkAsksPerSecond: 50,
  networkAsksOfOne: 3,
  /** OSC senders and addresses of each that are remembered; more are left out and counted. */
  oscSenders: 256,
  oscAddressesPerSender: 4096,
  oscPorts: 8,
  oscRules: 100,
  /** A bundle may be meant for at most so long ahead, in ms. */
  oscAheadMs: 10_000,
  /** Bytes of a recording that is taken in, its samples, and the problems of a file that are listed one by one. */
  recordingBytes: 16 * 1024 * 1024,
  recordingSamples: 200_000,
  recordingProblems: 20,
  /** What is taken in as a take or a recording reaches no further, in ms: a clock that jumped would else make centuries of it. */
  takeMs: 12 * 3_600_000,
  /** Marks of a take, steps of a recipe, and bytes of a file that is taken in as one. */
  marks: 1000,
  tidySteps: 50,
  recipes: 100,
  takeFileBytes: 256 * 1024 * 1024,
  /** Raw numbers that may wait for one page before the oldest go (and are counted). */
  captureBacklog: 5000,
  /** Raw messages that wait for one page before the oldest go. */
  rawLines: 400,
  /** How far in the past a page may say that a sample happened, in ms. */
  sampleAgeMs: 250,
} as const;
