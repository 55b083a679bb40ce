import { randomUUID } from 'node:crypto';
import { freeName } from '../core/rig/naming';
import { problemOf } from '../protocol/check';
import type { LibraryContent, LibraryEntry, LibraryLine } from '../protocol/library';
import { LIMITS } from '../protocol/limits';
import { ProblemError } from '../protocol/problem';
import { checkHere, type CheckRig } from './rigChecks';
import type { LibraryRepository } from './storage/libraryRepository';

/** Shapings and kits that are kept for other rigs. */
export class Library {
  constructor(
    private readonly repository: LibraryRepository,
    private readonly nowMs: () => number,
    private readonly checkRig: CheckRig = checkHere,
  ) {}

  list(): Promise<LibraryLine[]> {
    return this.repository.list();
  }

  async find(id: string): Promise<LibraryEntry> {
    const entry = await this.repository.find(id);
    if (!entry) throw new ProblemError('not-found', 'id', `There is nothing kept under the id "${id}": it was deleted in another window.`);
    return entry;
  }

  /** Keeps it; where the name is taken it goes by the next that is free. Throws a `ProblemError` where a kit is no rig. */
  async keep({ name, ...content }: { name: string } & LibraryContent): Promise<LibraryEntry> {
    const kept = await this.repository.list();
    if (kept.length >= LIMITS.libraryEntries) throw new ProblemError('too-many', 'name', `${LIMITS.libraryEntries} things are kept already: delete some first.`);
    if (content.kind === 'kit') {
      const checked = await this.checkRig(content.kit);
      if (!checked.ok) throw problemOf(checked.problems);
    }
    const entry: LibraryEntry = { id: randomUUID(), name: freeName(name, kept.filter(({ kind }) => kind === content.kind).map((other) => other.name)), savedAtMs: this.nowMs(), ...content };
    await this.repository.create(entry);
    return entry;
  }

  /** Takes it out for good and gives it back, so that it can be kept again. */
  async remove(id: string): Promise<LibraryEntry> {
    const entry = await this.find(id);
    await this.repository.remove(id);
    return entry;
  }
}
