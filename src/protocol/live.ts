import type { FeedKind, FeedReport, Found, SourceReport } from '../core/inputs/feed';
import type { PortIdentity } from '../core/midi/portName';
import type { RigDocument } from '../core/rig/document';
import type { StandInSettings } from '../core/standIn/standIn';
import type { DelayReport } from './delays';
import type { DeviceLeave } from './devices';
import type { InputSettings } from './inputSettings';
import type { MadeEdit } from './madeEdit';
import type { NetworkSettings } from './networkSettings';
import type { Problem } from './problem';
import type { Recording } from './recording';
import type { RecordSettings } from './recordSettings';
import type { MemberShown, ToTransport, TransportState } from './transport';
import type { PlayingState, RecordDoes, RecordingState, TakeRecord } from './takes';

/** Version of the live line; a page of another version is told to reload. */
export const LIVE_VERSION = 13;

/** What a page may ask to see besides single values. */
export interface Watch {
  monitor?: boolean;
  activity?: boolean;
  /** How inputs and stand-ins are. */
  inputs?: boolean;
  /** Which mappings send, when each was heard last, and the scene that was recalled last. */
  mappingStates?: boolean;
  /** How outputs are, and where more could lead. */
  outputStates?: boolean;
  /** What the members of the ensemble play. */
  ensemble?: boolean;
  /** How long things take: of all, of one output or one mapping, by id. */
  delays?: { output?: string; mapping?: string };
  /** The input whose raw messages are listed. */
  raw?: string;
}

/** What is watched one by one, by number: values of signals, levels of mappings, receivers of outputs, every raw number of signals, what sounds of voice mappings. */
export const WATCHED = ['signals', 'mappings', 'outputs', 'captured', 'voices'] as const;
export type Watched = (typeof WATCHED)[number];

/** So many numbers go into one message of the watch list; a longer one goes in pieces. */
export const WATCH_PIECE = 2000;

/** The first word of a page, as text; `surface` is the one that it plays. */
export function helloOf(surface: string | undefined): string {
  return JSON.stringify({ kind: 'hello', version: LIVE_VERSION, ...(surface === undefined ? {} : { surface }) } satisfies FromClient);
}

/** JSON from a page to the hub. */
export type FromClient =
  | { kind: 'hello'; version: number; surface?: string }
  | { kind: 'watch'; watch: Watch }
  /** What is watched from now on, and what no more. */
  | { kind: 'watchList'; what: Watched; add: number[]; remove: number[] }
  | { kind: 'ping'; pageTimeMs: number }
  | { kind: 'panic' }
  | { kind: 'record'; does: RecordDoes }
  | ({ kind: 'transport' } & ToTransport)
  /** A scene button was pressed. */
  | { kind: 'recall'; scene: string }
  /** A page on this computer plays a surface for a while without being its play page; null ends it. */
  | { kind: 'try'; surface: string | null }
  /** A feed at this page, named by the page; told again when it knows more sources. */
  | { kind: 'feed'; feed: string; report: FeedReport; sources: SourceReport[] }
  | { kind: 'feedGone'; feed: string }
  /** Signals that are not let through as long as this page says so. */
  | { kind: 'holdBack'; signals: string[] }
  /** Sends one mapping alone, as a slow sweep or following the hand; null ends it. */
  | { kind: 'introduce'; mapping: string | null; how?: IntroduceHow; inTurn?: InTurn }
  /** What is introduced in turn was learned: the next, please. */
  | { kind: 'introduceNext' }
  | { kind: 'standIn'; standIn: string; on?: boolean; settings?: Partial<StandInSettings> }
  | { kind: 'knob'; standIn: string; knob: string; value: number }
  /** Plays a scale and a sweep on an output; `on: false` ends it. */
  | { kind: 'testOutput'; output: string; on: boolean }
  /** Sends whole messages to an output, as a person chose them. */
  | { kind: 'sendTo'; output: string; messages: number[][] }
  /** Tells a receiver what it should be set to. */
  | { kind: 'setUp'; output: string }
  /** The MIDI ports of its browser that this page lends from now on; see `LentIdentity`. */
  | { kind: 'lend'; ports: LentIdentity[] };

/**
 * A port that a page lends, and the number by which it is written to: never given to another one, so that what is on its way
 * when a port goes reaches none.
 */
export interface LentIdentity extends PortIdentity {
  number: number;
}

/** One of several that are introduced one after another: which, of how many, and what it is in words. It lasts until the next. */
export interface InTurn {
  at: number;
  of: number;
  words: string;
}

export const INTRODUCE_HOWS = ['sweep', 'follow'] as const;
export type IntroduceHow = (typeof INTRODUCE_HOWS)[number];

/** The kinds of feeds that a page may bring. */
export const CLIENT_FEEDS = ['gamepad', 'motion', 'midi', 'computer', 'microphone', 'hands'] as const;

/**
 * Numbers that binary frames use, as far as they were not told before. A number whose id is gone may be given to another
 * after a while; then it is told again.
 */
export interface Names {
  signals: [number: number, id: string][];
  /** Voice mappings among them. */
  mappings: [number: number, id: string][];
  streams: [number: number, id: string][];
  outputs: [number: number, id: string][];
}

/** What the top bar shows: messages since the last report, and the delay from a finger to its bytes. */
export interface Activity {
  in: number;
  out: number;
  delayP50Ms: number | null;
  delayP99Ms: number | null;
}

/** How one feed is doing. */
export interface FeedState {
  kind: FeedKind;
  report: string;
  slot: number;
  name: string;
  /** The input of the rig that stands for it; null where there is none yet. */
  input: string | null;
  /** Silent: there, but nothing came for a while. */
  state: 'live' | 'silent' | 'gone';
  /** Where it is: a socket, a page, a stand-in. */
  where: string;
  /** What a person should know of it; null for nothing. */
  remark: string | null;
  rateHz: number;
  /** Null before the first message. */
  lastHeardMsAgo: number | null;
  /** Messages since the hub began. */
  count: number;
  /** By signal of the rig: messages a second and when the last one came. */
  signals: { id: string; rateHz: number; lastHeardMsAgo: number | null }[];
  /** Sources that the rig does not know. */
  unknown: number;
}

export interface OscPortState {
  port: number;
  /** One sentence where it cannot listen; null where it does. */
  problem: string | null;
  askedBufferBytes: number;
  /** What the system gave, null before it listens. */
  bufferBytes: number | null;
}

export interface StandInState {
  id: string;
  on: boolean;
  settings: StandInSettings;
}

export interface InputsState {
  listening: boolean;
  feeds: FeedState[];
  oscPorts: OscPortState[];
  /** Packets that were left out since the hub began. */
  leftOut: { broken: number; strangers: number; loops: number; tooMany: number; ignored: number };
  standIns: StandInState[];
  /** Why native MIDI ports cannot be used, null where they can. */
  midiProblem: string | null;
}

/** As why an output is away: it will be there in a moment. What leaves meanwhile is said then, and nobody misses it. */
export const OPENING = 'is being opened';

/** How the outputs of the rig are, and where others could lead. */
export interface OutputsState {
  /** `away`: why nothing can leave there now, as the end of a sentence; null where it can. */
  outputs: { id: string; away: string | null; missed: number }[];
  /** MIDI ports of this computer, and those that pages lend. */
  ports: PortIdentity[];
  lent: PortIdentity[];
  /** Whether this computer has ports that can be used; null: not known yet. */
  usable: boolean | null;
  /** Whether its system lets a program make ports. */
  canMake: boolean;
  network: NetworkState;
}

/** How network MIDI is. */
export interface NetworkState {
  on: boolean;
  /** Why sessions are neither announced nor found; null where they are. */
  problem: string | null;
  sessions: {
    name: string;
    port: number;
    /** Under which name others see it. */
    announced: string;
    problem: string | null;
    peers: NetworkPeerState[];
  }[];
  /** Who wants to connect and may not yet. */
  asking: { name: string; address: string; session: string }[];
  /** Sessions of others that announce themselves. */
  announced: { name: string; address: string; port: number }[];
}

export interface NetworkPeerState {
  id: string;
  name: string;
  address: string;
  port: number;
  /** Whether we connect to it; else it connects to us. */
  invited: boolean;
  open: boolean;
  /** There and back, in ms; null before it was measured. */
  wayMs: number | null;
  /** Packets that did not come, and were repaired. */
  lost: number;
}

/** How the mappings are; the lists go side by side. */
export interface MappingStates {
  numbers: number[];
  /** Since its level was computed last; -1 for never. */
  heardMsAgo: number[];
  /** Whether it sends now: as the document says, until a scene says otherwise. */
  sends: boolean[];
  /** The receivers that hear one voice alone now. */
  alone: string[];
  /** The members of the ensemble that are off now. */
  membersOff: string[];
  /** The scene that was recalled last, null for none since the hub began. */
  scene: string | null;
}

/** One message as it arrived, in words. */
export interface RawLine {
  hubTimeMs: number;
  text: string;
  bytes?: string;
}

/** Where a surface was turned to by the host, and when, on the hub's clock: said again it is the same turn, and turns nothing. */
export interface Turn<T> {
  to: T;
  atMs: number;
}

/** The page and the bank that a surface was turned to last; none where it never was. */
export interface Turned {
  page?: Turn<string>;
  bank?: Turn<number>;
}

/** JSON from the hub to a page. */
export type ToClient =
  | { kind: 'welcome'; version: number; hubTimeMs: number; names: Names; rig: string; revision: number; stage: boolean }
  | { kind: 'names'; names: Names }
  /** Which rig plays now, by its id, and in which revision. */
  | { kind: 'rig'; rig: string; revision: number; stage: boolean }
  /** For the screens of the bench instead: the edit that made this revision of it. */
  | { kind: 'edited'; made: MadeEdit }
  | { kind: 'pong'; pageTimeMs: number; hubTimeMs: number }
  | { kind: 'activity'; activity: Activity }
  /** Which page and bank of its surface a play page turns to; a turn that it knows already is over. */
  | { kind: 'page'; turned: Turned }
  /** How many pages play each surface, and which joined devices are there. */
  | { kind: 'surfaces'; playing: Record<string, number>; devices: string[] }
  /** This joined device has another surface than its page shows; null for none, only its motion. */
  | { kind: 'given'; surface: string | null }
  /** Under which number each source of a feed of this page is sent, in the order told; `midi` numbers its bytes, `streams` the streams that its kind has. */
  | { kind: 'feed'; feed: string; sources: number[]; midi: number; streams: number[] }
  /** Which mapping is introduced now, alone; null when that ended. */
  | { kind: 'introducing'; mapping: string | null; untilHubMs: number; inTurn: InTurn | null }
  /** To the page that introduces in turn: somebody at a tablet says that it was learned. */
  | { kind: 'introduceNext' }
  | { kind: 'inputs'; inputs: InputsState }
  | { kind: 'outputs'; outputs: OutputsState }
  | { kind: 'delays'; delays: DelayReport }
  /** The answer to Panic: how many notes ended by it. */
  | { kind: 'panicked'; notes: number }
  | { kind: 'mappingStates'; states: MappingStates }
  | { kind: 'raw'; input: string; lines: RawLine[]; dropped: number }
  | { kind: 'recording'; recording: RecordingState }
  | { kind: 'playing'; playing: PlayingState | null }
  | { kind: 'transport'; transport: TransportState }
  | { kind: 'ensemble'; members: MemberShown[] }
  | { kind: 'problem'; problem: Problem };

/** What scenes and taps have done to a rig and is not in its document: a hub that begins again in the middle of a show is told so. */
export interface Standing {
  /** That was recalled last. */
  scene: string | null;
  /** By id: what is on or off otherwise than the rig says, and which receivers hear one voice alone. */
  mappings: Record<string, boolean>;
  voiceMappings: Record<string, boolean>;
  members: Record<string, boolean>;
  alone: Record<string, boolean>;
  /** The tempo that was tapped; null for none. */
  tappedBpm: number | null;
  /** By surface. */
  turned: Record<string, Turned>;
  piece: PieceStanding;
}

/** Where a piece was at a time of the clock that all processes of this computer share. */
export interface PieceStanding {
  running: boolean;
  bpm: number;
  beat: number;
  atSystemMs: number;
}

/** JSON from the web process to the hub: the compiled work it is given. */
export type FromWeb =
  /** `standing`: as a hub before this one left it, for one that has just begun. */
  | { kind: 'load'; id: string; rig: RigDocument; revision: number; stage: boolean; values: Record<string, number>; standing?: Standing }
  /**
   * An edit of the rig that the hub has, which makes this revision of it: much shorter than the rig. With the last values of
   * signals that it brings.
   */
  | { kind: 'edit'; made: MadeEdit; values: Record<string, number> }
  | { kind: 'recall'; scene: string }
  /** Goes on recording: an earlier hub was, and died. */
  | { kind: 'record' }
  | { kind: 'monitor'; on: boolean }
  | { kind: 'settings'; settings: InputSettings }
  | { kind: 'network'; settings: NetworkSettings }
  | { kind: 'recordSettings'; settings: RecordSettings }
  | { kind: 'recordings'; recordings: Record<string, Recording> }
  /** A record of a take, and all before it, is written down; or it could not be, for this reason. */
  | { kind: 'takeStored'; take: string; number: number; warning: string | null }
  | { kind: 'takeRefused'; reason: string }
  /** Plays a take from now on; its messages follow, and more of them whenever they are asked for. */
  | { kind: 'playTake'; play: number; state: Omit<PlayingState, 'sinceHubMs'>; tempoBpm: number }
  /** Messages of it with the ms from the beginning at which they are due, all up to `untilMs`; bytes in base64. */
  | { kind: 'takeMessages'; play: number; untilMs: number; last: boolean; messages: [dueMs: number, output: string, bytes: string, ofVoice: boolean][] }
  | { kind: 'stopTake' }
  /** Asks to be answered once everything before it was obeyed. */
  | { kind: 'obeyed'; number: number }
  /** Whether the network is let in, and who of it. */
  | { kind: 'devices'; lan: boolean; devices: DeviceLeave[] };

/** JSON from the hub to the web process; signal values and monitor facts reach it as binary frames. */
export type ToWeb =
  /** From here on everything that enters and leaves is told. */
  | { kind: 'monitors' }
  /** `recording`: the take that is being recorded. */
  | { kind: 'hello'; names: Names; pid: number; recording: string | null }
  | { kind: 'names'; names: Names }
  /** What the rig does not know that plays. */
  | { kind: 'found'; rig: string; found: Found[] }
  /** Something of a take, to be written down. */
  | { kind: 'take'; record: TakeRecord }
  /** The rig and the revision of it that play from now on. */
  | { kind: 'plays'; rig: string; revision: number }
  /** How that rig stands. */
  | { kind: 'stands'; rig: string; standing: Standing }
  /** The take that plays needs its messages after this. */
  | { kind: 'takeWants'; play: number; untilMs: number }
  /** Everything before this question was obeyed. */
  | { kind: 'obeyed'; number: number }
  /** An edit did not fit: the whole rig is wanted. */
  | { kind: 'resend' };
