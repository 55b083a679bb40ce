import { randomUUID } from 'node:crypto';
import type { RigDocument } from '../core/rig/document';
import type { Found } from '../core/rig/device';
import { applyEdit, type RigEdit } from '../core/rig/edit';
import { takeUp } from '../core/rig/found';
import { problemOf } from '../protocol/check';
import { ProblemError } from '../protocol/problem';
import { checkRig } from '../protocol/rig';
import type { RigRepository, StoredRig } from './storage/rigRepository';

/** How often the last values of signals are written down. */
const VALUES_MS = 500;

const OPEN_RIG = 'openRig';
const STAGE = 'stage';

export interface OpenRig extends StoredRig {
  /** On Stage nothing can be edited. */
  stage: boolean;
}

/**
 * The rig that is open: edits it, stores it, and tells whoever plays it. Edits run one after another.
 */
export class RigDesk {
  private rig!: StoredRig;
  private stage = false;
  private queue: Promise<unknown> = Promise.resolve();
  private values = new Map<string, number>();
  private unsaved = new Map<string, number>();
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly repository: RigRepository,
    private readonly onChange: () => void,
    private readonly nowMs: () => number,
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
    this.values = new Map(Object.entries(await repository.values(id)));
  }

  get current(): OpenRig {
    return { ...this.rig, stage: this.stage };
  }

  get lastValues(): Record<string, number> {
    return Object.fromEntries(this.values);
  }

  /** Applies, checks and stores an edit. Throws a `ProblemError` and changes nothing where it cannot be. */
  edit(rigId: string, edit: RigEdit): Promise<OpenRig> {
    return this.inTurn(async () => {
      this.mustBeOpen(rigId);
      if (this.stage) throw new ProblemError('locked', 'edit', 'Pumice is on Stage, where nothing can be edited: go back to the Bench first.');
      await this.apply(edit);
      return this.current;
    });
  }

  /** Takes up what arrived and the rig does not know; nothing where it knows all of it or nothing can be edited now. */
  takeUp(found: readonly Found[]): Promise<void> {
    return this.inTurn(async () => {
      if (this.stage) return;
      const changes = takeUp(this.rig.document, found);
      if (changes.length > 0) await this.apply({ kind: 'change', changes });
    });
  }

  /** Takes a rig in, under a new id; it is not opened. Throws a `ProblemError` with every problem of a bad one. */
  take(candidate: unknown): Promise<StoredRig> {
    return this.inTurn(async () => {
      const checked = checkRig(candidate);
      if (!checked.ok) throw problemOf(checked.problems);
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
  async switchTo(id: string): Promise<OpenRig> {
    await this.flush();
    return this.inTurn(async () => {
      if (this.stage) throw new ProblemError('locked', 'id', 'Pumice is on Stage, where nothing can be edited: go back to the Bench first.');
      this.rig = await this.find(id);
      await this.repository.saveSetting(OPEN_RIG, id);
      this.values = new Map(Object.entries(await this.repository.values(id)));
      this.onChange();
      return this.current;
    });
  }

  setStage(stage: boolean): Promise<OpenRig> {
    return this.inTurn(async () => {
      await this.repository.saveSetting(STAGE, String(stage));
      this.stage = stage;
      this.onChange();
      return this.current;
    });
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
    if (this.unsaved.size === 0) return;
    const values = this.unsaved;
    this.unsaved = new Map();
    await this.inTurn(() => this.repository.saveValues(this.rig.id, values));
  }

  private async apply(edit: RigEdit): Promise<void> {
    const applied = applyEdit(this.rig.document, edit);
    if (!applied.ok) throw new ProblemError('not-found', applied.field, applied.message);
    const checked = checkRig(applied.document);
    if (!checked.ok) throw problemOf(checked.problems);
    const next: StoredRig = { ...this.rig, document: checked.value, revision: this.rig.revision + 1, savedAtMs: this.nowMs() };
    await this.repository.saveEdit(next, edit, applied.inverse);
    this.rig = next;
    this.onChange();
  }

  private mustBeOpen(rigId: string): void {
    if (rigId !== this.rig.id) throw new ProblemError('not-found', 'id', `There is no rig "${rigId}".`);
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.queue.then(work, work);
    this.queue = turn.catch(() => undefined);
    return turn;
  }
}
