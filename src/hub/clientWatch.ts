import type { WebSocket } from 'ws';
import { encodeHeard } from '../protocol/frames';
import { WATCHED, type Names, type Watched } from '../protocol/live';
import { toldNoNames, type Numbered, type Numbering } from './numbering';
import type { Player } from './player';
import type { Watcher } from './watcher';

/**
 * What one client is told of names and shown of values. A joined device knows and sees the signals of its surface alone: for
 * it `mayKnow` is a set, for the clients of this computer it is null.
 */
export class ClientWatch {
  private readonly lists: Record<Watched, Set<number>> = { signals: new Set(), mappings: new Set(), outputs: new Set(), captured: new Set(), voices: new Set() };
  private told = toldNoNames();
  /** What a joined device was told, by number. */
  private readonly toldOfSurface = new Map<number, string>();
  private readonly toldOfStreams = new Map<number, string>();
  private mayKnow: ReadonlySet<number> | null = null;
  private mayPlay: ReadonlySet<number> = new Set();

  constructor(
    private readonly socket: WebSocket,
    private readonly player: Player,
    private readonly watcher: Watcher,
  ) {}

  /** All names that it may know, for a client that begins: with its welcome it forgets what it knew. */
  allNames(): Names {
    this.told = toldNoNames();
    this.toldOfSurface.clear();
    this.toldOfStreams.clear();
    return this.newNames() ?? { signals: [], mappings: [], streams: [], outputs: [] };
  }

  /** The names that the client does not know yet; null where it knows all. */
  newNames(): Names | null {
    const { signals, mappings, streams, outputs } = this.player;
    if (this.mayKnow) {
      const names: Names = { signals: untold(this.mayKnow, signals, this.toldOfSurface), mappings: [], streams: untold(this.mayPlay, streams, this.toldOfStreams), outputs: [] };
      return names.signals.length + names.streams.length === 0 ? null : names;
    }
    const take = (numbering: Numbering, kind: keyof Names): Names['signals'] => {
      const { numbered, told } = numbering.since(this.told[kind]);
      this.told[kind] = told;
      return numbered;
    };
    const names = { signals: take(signals, 'signals'), mappings: take(mappings, 'mappings'), streams: take(streams, 'streams'), outputs: take(outputs.numbers, 'outputs') };
    return Object.values(names).every((list) => list.length === 0) ? null : names;
  }

  /** Limits a joined device to the signals that its surface plays and shows, and to the streams that it plays. */
  limitTo(mayKnow: ReadonlySet<number>, mayPlay: ReadonlySet<number>): void {
    this.mayKnow = mayKnow;
    this.mayPlay = mayPlay;
    this.apply();
  }

  change(what: Watched, add: readonly number[], remove: readonly number[]): void {
    const list = this.lists[what];
    for (const number of remove) list.delete(number);
    for (const number of add) list.add(number);
    this.apply(what);
  }

  private apply(only?: Watched): void {
    const { watcher, lists, player } = this;
    for (const what of only ? [only] : WATCHED) {
      if (this.mayKnow && what !== 'signals') continue;
      const numbers = this.mayKnow ? [...lists[what]].filter((number) => this.mayKnow!.has(number)) : lists[what];
      switch (what) {
        case 'signals':
          watcher.watchSignals(numbers);
          break;
        case 'mappings':
          watcher.watchMappings(numbers);
          break;
        case 'outputs':
          for (const output of numbers) if (!watcher.isWatchingOutput(output)) this.socket.send(encodeHeard(output, [...player.outputs.heard(output)]));
          watcher.watchOutputs(numbers);
          break;
        case 'voices':
          watcher.watchVoices(numbers);
          break;
        case 'captured':
          watcher.capture(numbers);
          player.audience.changed();
          break;
        default:
          what satisfies never;
      }
    }
  }
}

/** Names that somebody was not told yet, who may know of these numbers alone. */
function untold(numbers: ReadonlySet<number>, numbering: Numbering, told: Map<number, string>): Numbered[] {
  const fresh = [...numbers].map((number): Numbered => [number, numbering.idOf(number)!]).filter(([number, id]) => told.get(number) !== id);
  for (const [number, id] of fresh) told.set(number, id);
  return fresh;
}
