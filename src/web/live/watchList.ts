import { WATCHED, WATCH_PIECE, type FromClient, type Watched } from '../../protocol/live';
import type { NamesBook } from '../../protocol/names';

/** By which names each is known. */
const NAMED = { signals: 'signals', captured: 'signals', mappings: 'mappings', voices: 'mappings', outputs: 'outputs' } as const satisfies Record<Watched, keyof NamesBook>;

/**
 * What a page wants to see one by one, told to the hub by number and as differences, in pieces of a size that any frame holds.
 * What has no number yet is told once it has one.
 */
export class WatchList {
  private readonly wanted: Record<Watched, ReadonlySet<string>> = { signals: new Set(), mappings: new Set(), outputs: new Set(), captured: new Set(), voices: new Set() };
  /** By number as it was told: the id that was meant. */
  private readonly told: Record<Watched, Map<number, string>> = { signals: new Map(), mappings: new Map(), outputs: new Map(), captured: new Map(), voices: new Map() };

  constructor(
    private readonly names: NamesBook,
    /** False where the line is down: then nothing was told. */
    private readonly tell: (message: FromClient) => boolean,
  ) {}

  want(what: Watched, ids: Iterable<string>): void {
    this.wanted[what] = new Set(ids);
    this.bring(what);
  }

  /** Names came, or the meaning of numbers changed. */
  namesChanged(): void {
    for (const what of WATCHED) this.bring(what);
  }

  /** Another hub, which was told nothing. */
  forget(): void {
    for (const what of WATCHED) this.told[what].clear();
  }

  private bring(what: Watched): void {
    const known = this.names[NAMED[what]];
    const told = this.told[what];
    const numbers = new Map<number, string>();
    for (const id of this.wanted[what]) {
      const number = known.numberOf(id);
      if (number !== undefined) numbers.set(number, id);
    }
    const add = [...numbers].filter(([number, id]) => told.get(number) !== id);
    const remove = [...told.keys()].filter((number) => !numbers.has(number));
    while (add.length > 0 || remove.length > 0) {
      const [more, less] = [add.splice(0, WATCH_PIECE), remove.splice(0, WATCH_PIECE)];
      if (!this.tell({ kind: 'watchList', what, add: more.map(([number]) => number), remove: less })) return;
      for (const number of less) told.delete(number);
      for (const [number, id] of more) told.set(number, id);
    }
  }
}
