import { randomUUID } from 'node:crypto';
import type { RigDocument } from '../core/rig/document';
import type { Found } from '../core/inputs/feed';
import { applyEdit, RIG_LISTS, type RigEdit } from '../core/rig/edit';
import { editInWords } from '../core/rig/editWords';
import { takeUp } from '../core/inputs/found';
import { collide } from '../core/rig/footprint';
import { editTarget, undoStacks } from '../core/rig/history';
import { problemOf } from '../protocol/check';
import { LIMITS } from '../protocol/limits';
import type { EditMaker, MadeEdit, RigStanding } from '../protocol/madeEdit';
import { ProblemError } from '../protocol/problem';
import { checkEdited } from '../protocol/rig';
import { checkHere, type CheckRig } from './rigChecks';
import type { HistoryEntry, RigRepository, RigSummary, StoredRig } from './storage/rigRepository';

/** How often the last values of signals are written down. */
const VALUES_MS = 500;

/** After they could not be: tried again after so long. */
const VALUES_AGAIN_MS = 5000;

const OPEN_RIG = 'openRig';
const STAGE = 'stage';

/** Edits of one thing that follow each other so quickly are one step of the history. */
const ONE_STEP_MS = 1000;
/** So many steps can be taken back. */
const HISTORY_MOST = 500;
/** So many edits back it is known which window made them. */
const LATELY_MOST = 200;

/** Which window makes an edit, as the how manieth of its own, and the latest revision that it had seen; without these nothing is compared. */
export interface EditOrigin extends Partial<EditMaker> {
  basedOn?: number;
}

export interface OpenRig extends StoredRig, RigStanding {
  /** On Stage nothing can be edited. */
  stage: boolean;
}

/**
 * The rig that is open: edits it, stores it, and tells whoever plays it. Edits run one after another.
 */
export class RigDesk {
  private rig!: StoredRig;
  /** The length of its document as JSON. */
  private bytes = 0;
  private stage = false;
  private isStageKept = true;
  private queue: Promise<unknown> = Promise.resolve();
  private values = new Map<string, number>();
  /** Of the rig that is open: what is not written down yet. */
  private unsaved = new Map<string, number>();
  /** The same of rigs that were left, by their ids. */
  private left = new Map<string, Map<string, number>>();
  private timer: NodeJS.Timeout | null = null;
  private history: HistoryEntry[] = [];
  /** What takes the latest edit back: an edit that joins it as one step need not wait for the disk. */
  private lastInverse: { number: number; inverse: RigEdit } | null = null;
  /** The latest edits with the windows that made them, so that none overwrites what another just made. */
  private lately: { number: number; window: string | null; edit: RigEdit }[] = [];

  constructor(
    private readonly repository: RigRepository,
    /** Told what plays now is another; with the edit that made it, where one alone did. */
    private readonly onChange: (made?: MadeEdit) => void,
    private readonly nowMs: () => number,
    /** Told when values, or whether it is on Stage, could not be written down; it is tried again. */
    private readonly onUnsaved: (error: unknown) => void = () => undefined,
    private readonly checkRig: CheckRig = checkHere,
  ) {}

  /** Opens the rig that was open last. `first` is stored and opened where there is none yet. */
  async open(first: { id: string; document: RigDocument }): Promise<void> {
    const { repository } = this;
    if ((await repository.count()) === 0) {
      await repository.create({ ...first, revision: 0, savedAtMs: this.nowMs() });
      await repository.saveSetting(OPEN_RIG, first.id);
    }
    const id = (await repository.setting(OPEN_RIG)) ?? first.id;
    const rig = await repository.find(id);
    if (!rig) throw new Error(`The rig "${id}" that was open last is not in the database.`);
    this.rig = rig;
    this.stage = (await repository.setting(STAGE)) === 'true';
    await this.opened();
  }

  get current(): OpenRig {
    return { ...this.rig, stage: this.stage, ...this.standing };
  }

  private get standing(): RigStanding {
    const { id, revision, savedAtMs } = this.rig;
    const { undo, redo } = undoStacks(this.history);
    const words = (number: number | undefined) => {
      const entry = this.history.find((candidate) => candidate.number === number);
      return entry ? editInWords(entry.edit, this.rig.document) : null;
    };
    return { id, revision, savedAtMs, undo: words(undo.at(-1)), redo: words(redo.at(-1)) };
  }

  /** The latest edits, newest first, in words; those that were taken back say so. */
  get steps(): { number: number; madeAtMs: number; words: string; takenBack: boolean }[] {
    const { redo } = undoStacks(this.history);
    const own = this.history.filter(({ undoes, redoes, byItself }) => undoes === null && redoes === null && !byItself);
    return own.map(({ number, madeAtMs, edit }) => ({ number, madeAtMs, words: editInWords(edit, this.rig.document), takenBack: redo.includes(number) })).reverse();
  }

  get lastValues(): Record<string, number> {
    return Object.fromEntries(this.values);
  }

  /** Applies, checks and stores an edit. Throws a `ProblemError` and changes nothing where it cannot be. */
  edit(rigId: string, edit: RigEdit, from: EditOrigin = {}): Promise<MadeEdit> {
    return this.inTurn(async () => {
      this.mustBeOpen(rigId);
      this.mustBeOnBench('edit');
      this.mustNotCollide(edit, from);
      return this.apply(edit, {}, from);
    });
  }

  /** Takes the last edit back, or makes the one again that was taken back last; without an edit where there is none. */
  step(rigId: string, way: 'undo' | 'redo'): Promise<MadeEdit | RigStanding> {
    return this.inTurn(async () => {
      this.mustBeOpen(rigId);
      this.mustBeOnBench(way);
      const number = undoStacks(this.history)[way].at(-1);
      const revision = number === undefined ? null : await this.repository.revision(rigId, number);
      if (number === undefined || !revision) return this.standing;
      return way === 'undo' ? this.apply(revision.inverse, { undoes: number }) : this.apply(revision.edit, { redoes: number });
    });
  }

  /** All rigs, the one saved last first. */
  list(): Promise<RigSummary[]> {
    return this.repository.list();
  }

  /** Takes a rig out for good and gives it back, so that it can be taken in again. The open one stays. */
  remove(id: string): Promise<StoredRig> {
    return this.inTurn(async () => {
      this.mustBeOnBench('id');
      if (id === this.rig.id) throw new ProblemError('invalid', 'id', `${this.rig.document.name} is open: open another rig before you delete this one.`);
      const rig = await this.find(id);
      await this.repository.remove(id);
      this.left.delete(id);
      return rig;
    });
  }

  /** Takes up what arrived and this rig does not know; nothing where it knows all of it, is not open any more, or nothing can be edited now. */
  takeUp(rigId: string, found: readonly Found[]): Promise<void> {
    return this.inTurn(async () => {
      if (this.stage || rigId !== this.rig.id) return;
      const changes = takeUp(this.rig.document, found);
      if (changes.length > 0) await this.apply({ kind: 'change', changes }, { byItself: true });
    });
  }

  /** Takes a rig in, under a new id; it is not opened. Throws a `ProblemError` with every problem of a bad one. */
  async take(candidate: unknown): Promise<StoredRig> {
    // Edits do not wait for it.
    const checked = await this.checkRig(candidate);
    if (!checked.ok) throw problemOf(checked.problems);
    return this.inTurn(async () => {
      mustBeSmallEnough(JSON.stringify(checked.value).length);
      const rig: StoredRig = { id: randomUUID(), document: checked.value, revision: 0, savedAtMs: this.nowMs() };
      await this.repository.create(rig);
      return rig;
    });
  }

  /** A stored rig. Throws a `ProblemError` where there is none of this id. */
  async find(id: string): Promise<StoredRig> {
    const rig = id === this.rig.id ? this.rig : await this.repository.find(id);
    if (!rig) throw new ProblemError('not-found', 'id', `There is no rig "${id}".`);
    return rig;
  }

  /** Plays another rig from now on. What sounds of the old one is ended. */
  switchTo(id: string): Promise<OpenRig> {
    return this.inTurn(async () => {
      this.mustBeOnBench('id');
      const next = await this.find(id);
      await this.repository.saveSetting(OPEN_RIG, id);
      // What moved until now is the former one's; it goes on moving until this very moment.
      this.left.set(this.rig.id, this.unsaved);
      this.unsaved = this.left.get(id) ?? new Map();
      this.left.delete(id);
      this.rig = next;
      await this.keepLeft().catch((error: unknown) => this.tryAgain(error));
      await this.opened();
      this.onChange();
      return this.current;
    });
  }

  /** On Stage at once, and back: a show does not wait for a disk that is full or held by another; what cannot be stored is stored later. */
  setStage(stage: boolean): Promise<OpenRig> {
    return this.inTurn(async () => {
      this.stage = stage;
      this.isStageKept = false;
      this.onChange();
      await this.keepStage().catch((error: unknown) => this.tryAgain(error));
      return this.current;
    });
  }

  private async keepStage(): Promise<void> {
    if (this.isStageKept) return;
    await this.repository.saveSetting(STAGE, String(this.stage));
    this.isStageKept = true;
  }

  private async keepLeft(): Promise<void> {
    for (const [rigId, values] of this.left) {
      await this.repository.saveValues(rigId, values);
      this.left.delete(rigId);
    }
  }

  /** Remembers the value of a signal, and writes it down a little later. */
  remember(signalId: string, value: number): void {
    this.values.set(signalId, value);
    this.unsaved.set(signalId, value);
    this.timer ??= setTimeout(() => void this.flush(), VALUES_MS);
  }

  async flush(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    if (this.unsaved.size === 0 && this.left.size === 0 && this.isStageKept) return;
    const values = this.unsaved;
    const rigId = this.rig.id;
    this.unsaved = new Map();
    try {
      await this.inTurn(async () => {
        await this.keepStage();
        await this.keepLeft();
        await this.repository.saveValues(rigId, values);
      });
    } catch (error) {
      if (this.rig.id === rigId) this.unsaved = new Map([...values, ...this.unsaved]);
      else this.left.set(rigId, new Map([...values, ...(this.left.get(rigId) ?? [])]));
      this.tryAgain(error);
    }
  }

  /** A full disk may have room again later: until then what could not be stored is kept here. */
  private tryAgain(error: unknown): void {
    this.timer ??= setTimeout(() => void this.flush(), VALUES_AGAIN_MS);
    this.onUnsaved(error);
  }

  private async apply(edit: RigEdit, of: { undoes?: number; redoes?: number; byItself?: boolean } = {}, { window, number }: EditOrigin = {}): Promise<MadeEdit> {
    const applied = applyEdit(this.rig.document, edit);
    if (!applied.ok) throw new ProblemError('not-found', applied.field, applied.message);
    const checked = checkEdited(this.rig.document, applied.document);
    if (!checked.ok) throw problemOf(checked.problems);
    const bytes = this.bytes + grownBy(this.rig.document, checked.value);
    // One that is too large already may still be made smaller.
    if (bytes > this.bytes) mustBeSmallEnough(bytes);
    const next: StoredRig = { ...this.rig, document: checked.value, revision: this.rig.revision + 1, savedAtMs: this.nowMs() };
    const last = this.history.at(-1);
    const replaces = last && of.undoes === undefined && of.redoes === undefined && this.isOneStep(last, edit, next.savedAtMs) ? last.number : undefined;
    const inverse = (replaces === undefined ? null : this.lastInverse?.inverse) ?? applied.inverse;
    const before = { rig: this.rig, history: this.history, bytes: this.bytes, lastInverse: this.lastInverse };
    this.rig = next;
    this.bytes = bytes;
    this.lastInverse = { number: next.revision, inverse };
    const kept = replaces === undefined ? this.history : this.history.slice(0, -1);
    this.history = [...kept, { number: next.revision, madeAtMs: next.savedAtMs, edit, undoes: of.undoes ?? null, redoes: of.redoes ?? null, byItself: of.byItself ?? false }];
    // Heard first, so that the hand does not wait for the disk; what cannot be stored is taken back.
    const made: MadeEdit = { ...this.standing, edit, ...(window === undefined || number === undefined ? {} : { by: { window, number } }) };
    this.onChange(made);
    try {
      await this.repository.saveEdit(next, { edit, inverse, ...of, ...(replaces === undefined ? {} : { replaces }) });
    } catch (error) {
      this.rig = before.rig;
      this.history = before.history;
      this.bytes = before.bytes;
      this.lastInverse = before.lastInverse;
      this.onChange();
      throw error;
    }
    this.lately = [...this.lately, { number: next.revision, window: window ?? null, edit }].slice(-LATELY_MOST);
    return made;
  }

  private isOneStep(last: HistoryEntry, edit: RigEdit, nowMs: number): boolean {
    const target = editTarget(edit);
    return this.lastInverse?.number === last.number && last.undoes === null && last.redoes === null && !last.byItself && target !== null && target === editTarget(last.edit) && nowMs - last.madeAtMs < ONE_STEP_MS;
  }

  private async opened(): Promise<void> {
    this.bytes = JSON.stringify(this.rig.document).length;
    this.values = new Map([...Object.entries(await this.repository.values(this.rig.id)), ...this.unsaved]);
    this.history = await this.repository.history(this.rig.id, HISTORY_MOST);
    this.lately = [];
    this.lastInverse = null;
  }

  /** An edit that was made before its window saw what another made of the same would silently undo that. */
  private mustNotCollide(edit: RigEdit, { window, basedOn }: EditOrigin): void {
    if (window === undefined || basedOn === undefined) return;
    const other = this.lately.find((before) => before.number > basedOn && before.window !== window && collide(before.edit, edit));
    if (other) throw new ProblemError('conflict', 'edit', `Changed a moment before, in another window or by Undo: ${editInWords(other.edit, this.rig.document)}. It is shown now; change it again where you still want to.`);
  }

  private mustBeOnBench(field: string): void {
    if (this.stage) throw new ProblemError('locked', field, 'Pumice is on Stage, where nothing can be edited: go back to the Bench first.');
  }

  private mustBeOpen(rigId: string): void {
    if (rigId !== this.rig.id) throw new ProblemError('not-found', 'id', `The rig that this was for is not open: ${this.rig.document.name} is. Nothing was changed; open the other one first where you still want to.`);
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.queue.then(work, work);
    this.queue = turn.catch(() => undefined);
    return turn;
  }
}

/** By how much an edit makes a document longer: what is the same object in both is not looked at. */
function grownBy(before: RigDocument, after: RigDocument): number {
  let bytes = 0;
  for (const list of RIG_LISTS) {
    if (before[list] === after[list]) continue;
    const [was, is] = [new Set<object>(before[list]), new Set<object>(after[list])];
    for (const thing of is) if (!was.has(thing)) bytes += JSON.stringify(thing).length + 1;
    for (const thing of was) if (!is.has(thing)) bytes -= JSON.stringify(thing).length + 1;
  }
  return bytes;
}

function mustBeSmallEnough(bytes: number): void {
  if (bytes > LIMITS.rigBytes) throw new ProblemError('too-large', '', `This would make the rig larger than ${LIMITS.rigBytes / 1024 / 1024} MB: put some of it into a rig of its own.`);
}
