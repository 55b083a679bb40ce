import { replaceEqualDeep } from '@tanstack/react-query';
import { applyEdit, type RigEdit } from '../../core/rig/edit';
import { collide } from '../../core/rig/footprint';
import type { EditMaker, MadeEdit, RigStanding } from '../../protocol/madeEdit';
import { RefusedError, type RigAnswer } from './fetchRig';
import { Happenings, Slot } from './slots';
import { HERE } from './store';

/** After the rig could not be fetched: tried again after so long. */
const FETCH_AGAIN_MS = 500;

/** What the store needs of the page around it. */
export interface RigWorld {
  fetch(): Promise<RigAnswer>;
  /** `basedOn` is the latest revision that was there when the edit was made. */
  postEdit(rigId: string, edit: RigEdit, by: EditMaker, basedOn: number): Promise<MadeEdit>;
  postStep(rigId: string, way: 'undo' | 'redo'): Promise<MadeEdit | RigStanding>;
  /** Whether the line is up, on which edits of others arrive. */
  lineIsUp(): boolean;
  later(ms: number, what: () => void): void;
}

/**
 * The page's copy of the open rig. Edits arrive by two ways, the answer to our own and the live line, each in its order
 * but not in one: they are applied by revision, each once, and our own that are under way are shown on top. The whole
 * document is fetched only where an edit was missed or does not fit.
 */
export class RigStore {
  /** As the server has it, up to its revision. */
  private known: RigAnswer;
  private shown: RigAnswer;
  private underWay: { number: number; rigId: string; edit: RigEdit }[] = [];
  /** Of later revisions than the next, until those between arrive. */
  private early = new Map<number, MadeEdit>();
  private posts: Promise<unknown> = Promise.resolve();
  private made = 0;
  /** Edits made of one that nobody answered: that was said, and where they are refused it is why. */
  private readonly doubtful = new Set<number>();
  /** Edits that were refused, or made of one that was. */
  private readonly fallen = new Set<number>();
  private fetching = false;
  private fetchAgain = false;
  private readonly changes = new Slot<null>(null);
  private readonly refusals = new Happenings<[error: Error]>();

  constructor(
    first: RigAnswer,
    private readonly window: string,
    private readonly world: RigWorld,
  ) {
    this.known = first;
    this.shown = first;
  }

  /** The rig as it is shown now; another object only after a change. */
  readonly current = (): RigAnswer => this.shown;

  readonly subscribe = (listener: () => void): (() => void) => this.changes.listen(listener);

  /** An edit of ours was refused, or nobody answered: it is shown no more. */
  onRefused(listener: (error: Error) => void): () => void {
    return this.refusals.listen(HERE, listener);
  }

  /** Makes an edit: shown at once, sent after those before it, and taken back where it is refused. */
  edit(edit: RigEdit): void {
    const { id: rigId, revision } = this.known;
    const number = ++this.made;
    this.underWay.push({ number, rigId, edit });
    this.show();
    this.inTurn(async () => {
      // It fell with one before it.
      if (!this.underWay.some((one) => one.number === number)) return;
      try {
        this.answered(await this.world.postEdit(rigId, edit, { window: this.window, number }, revision));
      } catch (error) {
        if (!(error instanceof RefusedError)) this.doubt(number, edit);
        else {
          this.fall(number, edit);
          if (this.doubtful.has(number)) return;
        }
        throw error;
      } finally {
        this.doubtful.delete(number);
        this.settle(number);
      }
    });
  }

  step(way: 'undo' | 'redo'): void {
    const last = this.underWay.at(-1)?.number;
    this.inTurn(async () => {
      // What it was to take back was refused meanwhile: it would take back another edit.
      if (way === 'undo' && last !== undefined && this.fallen.has(last)) return;
      const answer = await this.world.postStep(this.known.id, way);
      if ('edit' in answer) this.answered(answer);
    });
  }

  /** Settles as soon as the edits so far were answered, whether they were taken or not. */
  async answeredSoFar(): Promise<void> {
    await this.posts;
  }

  /** The live line tells an edit: it tells them in order, so that one before this that is not there now was missed. */
  heard(made: MadeEdit): void {
    this.take(made);
    if (made.id !== this.known.id || made.revision > this.known.revision) this.fetch();
  }

  /** The live line tells which rig plays; an empty id where the hub has none yet. */
  heardRig(id: string, revision: number, stage: boolean): void {
    if (id === '') return;
    if (stage !== this.known.stage) {
      this.known = { ...this.known, stage };
      this.show();
    }
    // A document that is on its way may be of another rig that was open for a moment, or of before Stage.
    if (id !== this.known.id || revision !== this.known.revision || this.fetching) this.fetch();
  }

  /** The whole rig as the server answered it, by whatever way. */
  whole(answer: RigAnswer): void {
    const { id, revision, document } = this.known;
    // An answer that was overtaken: what is newer is asked for.
    if (answer.id === id && answer.revision < revision) return this.fetch();
    this.adopt({ ...answer, document: replaceEqualDeep(document, answer.document) });
    // One that is on its way may be of before this.
    if (this.fetching) this.fetch();
  }

  private adopt(answer: RigAnswer): void {
    this.known = answer;
    this.dropEarly();
    this.applyEarly();
    this.show();
  }

  /** The server answered an edit of ours; one of another window before it may still be on the line. */
  private answered(made: MadeEdit): void {
    this.take(made);
    if (made.revision > this.known.revision && !this.world.lineIsUp()) this.fetch();
  }

  private take(made: MadeEdit): void {
    if (made.by?.window === this.window) this.underWay = this.underWay.filter(({ number }) => number !== made.by!.number);
    // While a document is on its way it may be one of a former revision, which this edit was made of.
    if (made.id === this.known.id && (made.revision > this.known.revision || this.fetching)) this.early.set(made.revision, made);
    this.applyEarly();
    this.show();
  }

  private applyEarly(): void {
    for (let next = this.early.get(this.known.revision + 1); next; next = this.early.get(this.known.revision + 1)) {
      const { edit, revision, savedAtMs, undo, redo } = next;
      this.early.delete(revision);
      const applied = applyEdit(this.known.document, edit);
      if (!applied.ok) return this.fetch();
      this.known = { ...this.known, document: applied.document, revision, savedAtMs, undo, redo };
    }
  }

  private dropEarly(): void {
    for (const [revision, { id }] of this.early) if (id !== this.known.id || revision <= this.known.revision) this.early.delete(revision);
  }

  /** One was refused: those after it that touch the same were made of what is not there, and say nothing more. */
  private fall(number: number, edit: RigEdit): void {
    const fallen = this.madeOf(number, edit);
    for (const one of fallen) this.fallen.add(one);
    this.underWay = this.underWay.filter((one) => !fallen.has(one.number));
    this.show();
  }

  /** Nobody answered, so that it may be there or not: what was made of it is tried. */
  private doubt(number: number, edit: RigEdit): void {
    for (const one of this.madeOf(number, edit)) if (one !== number) this.doubtful.add(one);
  }

  /** The edits under way that touch what an edit touches, or what those do. */
  private madeOf(number: number, edit: RigEdit): Set<number> {
    const touching = [edit];
    const made = new Set([number]);
    for (const one of this.underWay) {
      if (one.number <= number || !touching.some((before) => collide(before, one.edit))) continue;
      touching.push(one.edit);
      made.add(one.number);
    }
    return made;
  }

  private settle(number: number): void {
    const before = this.underWay.length;
    this.underWay = this.underWay.filter((one) => one.number !== number);
    if (this.underWay.length < before) this.show();
  }

  private inTurn(work: () => Promise<void>): void {
    this.posts = this.posts.then(work).catch((error: Error) => {
      this.refusals.tell(HERE, error);
      // Whether it arrived is not known where nobody answered, and why it was refused is not where the line is down.
      if (!(error instanceof RefusedError && this.world.lineIsUp())) this.fetch();
    });
  }

  private show(): void {
    let { document } = this.known;
    for (const { rigId, edit } of this.underWay) {
      // One that does not fit any more will be refused, or was told already.
      const applied = rigId === this.known.id ? applyEdit(document, edit) : null;
      if (applied?.ok) document = applied.document;
    }
    const { known, shown } = this;
    const same = document === shown.document && (Object.keys(known) as (keyof RigAnswer)[]).every((key) => key === 'document' || known[key] === shown[key]);
    if (same) return;
    this.shown = { ...known, document };
    this.changes.set(null);
  }

  private fetch(): void {
    if (this.fetching) return void (this.fetchAgain = true);
    this.fetching = true;
    const { id, revision } = this.known;
    void this.world.fetch().then(
      (answer) => {
        this.fetching = false;
        // Taken back by the server, where nothing was told since: the answer holds, though its revision is a former one.
        const overtaken = answer.id === this.known.id && answer.revision < this.known.revision && !(this.known.id === id && this.known.revision === revision);
        if (overtaken) this.fetchAgain = true;
        else this.adopt({ ...answer, document: replaceEqualDeep(this.known.document, answer.document) });
        if (this.fetchAgain) this.again();
      },
      () => {
        this.fetching = false;
        this.world.later(FETCH_AGAIN_MS, () => this.again());
      },
    );
  }

  private again(): void {
    this.fetchAgain = false;
    this.fetch();
  }
}
