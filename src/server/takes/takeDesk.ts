import { randomUUID } from 'node:crypto';
import { statfs } from 'node:fs/promises';
import type { Logger } from 'pino';
import { compile } from '../../core/engine/plan';
import type { RigDocument } from '../../core/rig/document';
import { mapperChanges, withMappers, type MapperChange } from '../../core/takes/changes';
import { shownOf, shownTogether, type TakeRig } from '../../core/takes/shown';
import { voicesOf } from '../../core/takes/voicesOf';
import { columnsOf, ScoreTable } from '../../core/takes/scoreTable';
import type { TidyStep } from '../../core/takes/tidy';
import { mustBe } from '../../protocol/check';
import { LIMITS } from '../../protocol/limits';
import type { FromWeb } from '../../protocol/live';
import { ProblemError } from '../../protocol/problem';
import { checkRig } from '../../protocol/rig';
import type { TakeDetail, TakeRecord, TakeSummary, TakeVersion } from '../../protocol/takes';
import { playSchema, takeChangeSchema, versionChangeSchema, type TakeFileKind } from '../../protocol/takesSchema';
import { isDiskFull } from '../storage/trouble';
import { OutOfOrder, type TakeRepository } from '../storage/takeRepository';
import { signalsFile, wholeTake } from './giveFiles';
import { AS_PLAYED, framed, unframed } from './framing';
import { readTakeFile, startOf, type TakenFile } from './takeFiles';
import { Renders } from './renders';
import { TakePlays } from './takePlays';

/** With less room on the disk than this nothing more is recorded, and with less than that it is said. */
const ROOM_LEAST_BYTES = 64 * 1024 * 1024;
const ROOM_SOON_BYTES = 1024 * 1024 * 1024;
/** Room is looked at so often. */
const ROOM_MS = 5000;

/** The takes of this computer: writes down what the hub hands over, and makes their versions. */
export class TakeDesk {
  readonly renders: Renders;
  readonly player: TakePlays;
  private readonly queue: TakeRecord[] = [];
  private writing = false;
  private room = Infinity;
  private roomAtMs = -Infinity;
  /** Takes that were recorded while this process ran. */
  private readonly seen = new Set<string>();
  private recording: string | null = null;
  /** The take that plays, or that is being read to be played. */
  private heard: { take: string } | null = null;
  private readonly failures = new Map<string, string>();
  /** Takes whose first version is being made. */
  private readonly first = new Set<string>();
  private catchingUp = false;

  constructor(
    private readonly takes: TakeRepository,
    private readonly dataFolder: string,
    private readonly answer: (message: FromWeb) => void,
    private readonly logger: Logger,
    renders?: Renders,
    private readonly nowMs: () => number = Date.now,
    private readonly roomIn: (folder: string) => Promise<number> = roomLeft,
  ) {
    this.renders = renders ?? new Renders(takes);
    this.player = new TakePlays(answer);
  }

  /** The hub is there (again) and records this take, or none. */
  async hubIsThere(recording: string | null): Promise<void> {
    const before = this.recording;
    this.recording = recording;
    await this.takes.cutOthers(recording);
    // A hub that died in the middle of a take goes on with the next one by itself: nobody looks at the screen then.
    if (recording === null && before !== null && this.seen.has(before)) this.answer({ kind: 'record' });
  }

  /** Something of a take, to be written down; answered when that is done. */
  take(record: TakeRecord): void {
    this.queue.push(record);
    if (!this.writing) void this.writeAll();
  }

  async list(): Promise<TakeSummary[]> {
    const takes = await this.takes.list();
    void this.catchUp(takes);
    return takes;
  }

  /** Renders those that nobody rendered yet, one after another: of the demo, or recorded before this process died. */
  private async catchUp(takes: readonly TakeSummary[]): Promise<void> {
    if (this.catchingUp) return;
    this.catchingUp = true;
    for (const { id, state, sketch, events } of takes) {
      if (sketch === null && events > 0 && state !== 'recording' && !this.failures.has(id)) await this.asPlayed(id);
    }
    this.catchingUp = false;
  }

  async detail(id: string): Promise<TakeDetail> {
    const take = await this.found(id);
    // Looked at first: what has ended by now is among the versions.
    const rendering = [...this.renders.running].find((other) => other.take === id);
    const versions = await this.takes.versions(id);
    // One that was recorded before the web process died has none yet.
    if (versions.length === 0 && take.state !== 'recording' && !rendering && !this.failures.has(id)) void this.asPlayed(id);
    return { take, versions, rig: await this.rigOf(id), rendering: rendering ? { name: rendering.name, progress: rendering.progress } : null, failure: this.failures.get(id) ?? null };
  }

  async change(id: string, candidate: unknown): Promise<TakeSummary> {
    await this.found(id);
    await this.takes.set(id, mustBe(takeChangeSchema, candidate));
    return this.found(id);
  }

  async remove(id: string): Promise<void> {
    const { state, name } = await this.found(id);
    if (state === 'recording') throw new ProblemError('conflict', 'take', `${name} is being recorded: end it first.`);
    this.stopRendering(id);
    // What plays is heard to its end nowhere once it is gone.
    if (this.heard?.take === id) this.stopPlaying();
    await this.takes.remove(id);
  }

  /** Throws where a take is being rendered, or is recorded. */
  async mustBeFree(id: string): Promise<void> {
    const { state, name } = await this.found(id);
    if (state === 'recording') throw new ProblemError('conflict', 'take', `${name} is being recorded: end it first.`);
    if ([...this.renders.running].some(({ take }) => take === id)) throw new ProblemError('conflict', 'take', 'This take is being rendered already: wait for it or stop it.');
  }

  /** The mappings that are others in a rig than in the one that the take began with. */
  async changes(id: string, rig: RigDocument): Promise<MapperChange[]> {
    return mapperChanges(await this.documentOf(id), rig);
  }

  /** The rig that a take is rendered through: another, or its own with some mappings of that. Throws where the two do not go together. */
  async throughRig(id: string, rig: RigDocument, only: readonly string[] | undefined): Promise<RigDocument> {
    if (!only) return rig;
    const checked = checkRig(withMappers(await this.documentOf(id), rig, only));
    if (!checked.ok) throw new ProblemError('invalid', 'only', `These mappings do not go together with the rest of the rig of the take: ${checked.problems[0]!.message}`);
    return checked.value;
  }

  /** Renders a take, through another rig where one is given (JSON); what comes of it is a version more. */
  async render(id: string, name: string, through: string | null): Promise<TakeVersion | null> {
    this.failures.delete(id);
    try {
      return await this.renders.render(id, name, through, async (rendered) => {
        const version: TakeVersion = { id: randomUUID(), name, madeAtMs: this.nowMs(), messages: rendered.messages, recipe: [], leftOut: rendered.leftOut };
        await this.takes.addVersion(id, { version, score: await framed(rendered), rig: through, beyond: rendered.beyond });
        if (rendered.sketch && through === null) await this.takes.set(id, { sketch: rendered.sketch });
        return version;
      });
    } catch (error) {
      this.failures.set(id, error instanceof ProblemError ? error.message : 'It could not be rendered: the log of Pumice says why.');
      this.logger.warn({ err: error, take: id }, 'a take was not rendered');
      return null;
    }
  }

  /** Makes the first version of a take, once, however many ask for it and however often its end is said. */
  private async asPlayed(id: string): Promise<void> {
    if (this.first.has(id)) return;
    this.first.add(id);
    try {
      if ((await this.takes.versions(id)).length === 0) await this.render(id, AS_PLAYED, null);
    } catch (error) {
      this.logger.warn({ err: error, take: id }, 'the first version of a take was not made');
    } finally {
      this.first.delete(id);
    }
  }

  stopRendering(id: string): void {
    for (const rendering of this.renders.running) if (rendering.take === id) rendering.stop();
  }

  /** `{startMs, rig}` of its beginning as JSON, then the pieces of its log, each with its length before it; gzip. */
  async log(id: string): Promise<Buffer> {
    const beginning = await this.takes.beginning(id);
    if (!beginning) throw new ProblemError('not-found', 'take', 'There is no such take any more.');
    const { startMs, rig } = beginning;
    const all: Uint8Array[] = [new TextEncoder().encode(JSON.stringify({ startMs, rig: JSON.parse(rig) as object }))];
    for await (const pieces of this.takes.pieces(id)) all.push(...pieces);
    return framed({ pieces: all });
  }

  /** The score of a version: its pieces with their lengths before them, gzip. */
  async score(id: string, version: string): Promise<Buffer> {
    const score = await this.takes.score(id, version);
    if (!score) throw new ProblemError('not-found', 'version', 'There is no such version of this take.');
    return score;
  }

  /** A version as it is heard and handed over, tidied by its recipe. */
  async messages(id: string, version: string): Promise<ScoreTable> {
    return new ScoreTable(columnsOf(await this.heardScore(id, version)));
  }

  private async heardScore(id: string, version: string): Promise<Uint8Array[]> {
    const { recipe } = await this.version(id, version);
    const pieces = unframed(await this.score(id, version));
    return recipe.length === 0 ? pieces : this.tidied(id, pieces, recipe);
  }

  private async tidied(id: string, pieces: Uint8Array[], recipe: TidyStep[]): Promise<Uint8Array[]> {
    const { tempoBpm, outputs } = await this.rigOf(id);
    return this.renders.tidy(pieces, recipe, tempoBpm, Object.fromEntries(outputs.map(({ id: output, bendRangeSemitones }) => [output, bendRangeSemitones])));
  }

  /** Plays a version; what else plays ends. Nothing where meanwhile something else is played, or all is stopped. */
  async play(id: string, version: string, candidate: unknown): Promise<void> {
    const options = mustBe(playSchema, candidate);
    const before = this.heard;
    const heard = (this.heard = { take: id });
    try {
      const { name, lengthMs } = await this.found(id);
      const messages = await this.messages(id, version);
      const { tempoBpm } = await this.rigOf(id);
      if (this.heard === heard) this.player.begin(messages, options, { take: id, version, name, lengthMs }, tempoBpm);
    } catch (error) {
      if (this.heard === heard) this.heard = before;
      throw error;
    }
  }

  stopPlaying(): void {
    this.player.stop();
    this.heard = null;
  }

  async changeVersion(id: string, version: string, candidate: unknown): Promise<TakeVersion> {
    await this.takes.setVersion(id, version, mustBe(versionChangeSchema, candidate));
    return this.version(id, version);
  }

  async removeVersion(id: string, version: string): Promise<void> {
    if ((await this.takes.versions(id)).length < 2) throw new ProblemError('conflict', 'version', 'This is the only version of the take: delete the take itself instead.');
    await this.takes.removeVersion(id, version);
  }

  async version(id: string, version: string): Promise<TakeVersion> {
    const found = (await this.takes.versions(id)).find((one) => one.id === version);
    if (!found) throw new ProblemError('not-found', 'version', 'There is no such version of this take.');
    return found;
  }

  /** Takes in what comes with the program. It is rendered when somebody looks: at the first start there is enough to do. */
  async seed(takes: readonly TakenFile[]): Promise<void> {
    for (const { start, ...rest } of takes) await this.takes.create(start, rest);
  }

  /** Takes a file in as a take, played by the rig that is open. */
  async takeIn(name: string, bytes: Uint8Array, rig: { id: string; document: RigDocument }): Promise<{ take: TakeSummary; remarks: string[] }> {
    if ((await this.roomIn(this.dataFolder)) - bytes.length < ROOM_LEAST_BYTES) throw new ProblemError('unavailable', 'file', 'The disk is too full for this take: free some space first.');
    const { start, remarks, ...rest } = await readTakeFile(name, bytes, rig, this.nowMs());
    return { take: await this.takes.create(start, rest), remarks };
  }

  /** A take more: the notes of the first version of one, played as voices of a stream of this rig. */
  async throughVoices(id: string, stream: string, rig: { id: string; document: RigDocument }): Promise<TakeSummary> {
    const { name, lengthMs, marks } = await this.found(id);
    const [version] = await this.takes.versions(id);
    const known = rig.document.streams.find((one) => one.id === stream);
    if (!known) throw new ProblemError('not-found', 'stream', `The open rig has no stream "${stream}".`);
    if (!version) throw new ProblemError('conflict', 'take', `${name} is not rendered yet: wait a moment.`);
    const pieces = voicesOf(await this.messages(id, version.id), compile(rig.document), stream, lengthMs);
    const through = `${name}, through ${known.name}`.slice(0, LIMITS.nameLength);
    return this.takes.create(startOf(rig, this.nowMs()), { name: through, lengthMs, events: pieces.reduce((sum, { events }) => sum + events, 0), marks, pieces: pieces.map(({ bytes }) => bytes), versions: [] });
  }

  /** A version as a file of one of several kinds; of a MIDI file, the messages of one mapping alone where it is named. */
  async file(id: string, version: string, as: TakeFileKind, line: string | null): Promise<{ bytes: Uint8Array; name: string; type: string }> {
    const take = await this.found(id);
    const beginning = (await this.takes.beginning(id))!;
    const log = async () => {
      const all: Uint8Array[] = [];
      for await (const pieces of this.takes.pieces(id)) all.push(...pieces);
      return all;
    };
    if (as === 'take') {
      const versions = await Promise.all((await this.takes.versions(id)).map(async (one) => ({ version: one, score: await this.score(id, one.id), rig: await this.takes.versionRig(id, one.id) })));
      return { bytes: wholeTake(take, beginning, await log(), versions), name: `${take.name}.json`, type: 'application/json' };
    }
    if (as === 'csv' || as === 'jsonl') return { bytes: signalsFile(beginning, await log(), as), name: `${take.name}.${as}`, type: as === 'csv' ? 'text/csv' : 'application/x-ndjson' };
    // A version that went through another rig has the names and ranges of that.
    const through = await this.takes.versionRig(id, version);
    const { recipe } = await this.version(id, version);
    // What was trimmed begins at another time.
    const from = through === null ? { start: beginning, log: await log(), sameTimes: !recipe.some(({ kind }) => kind === 'trim') } : null;
    return { bytes: await this.renders.midi({ score: await this.heardScore(id, version), rig: through ?? beginning.rig, marks: take.marks, format: as === 'midi0' ? 0 : 1, line, from }), name: `${take.name}.mid`, type: 'audio/midi' };
  }

  /** The rig that a take began with, as this version of Pumice has it; as it was written where it cannot be read any more. */
  private async documentOf(id: string): Promise<RigDocument> {
    const beginning = await this.takes.beginning(id);
    if (!beginning) throw new ProblemError('not-found', 'take', 'There is no such take any more.');
    const written = JSON.parse(beginning.rig) as RigDocument;
    const checked = checkRig(written);
    return checked.ok ? checked.value : { ...written, members: [] };
  }

  /** What of the rigs of a take, that it began with first of all, is needed to show it. */
  private async rigOf(id: string): Promise<TakeRig> {
    return shownTogether(shownOf(await this.documentOf(id)), ...(await this.takes.beyond(id)));
  }

  private async found(id: string): Promise<TakeSummary> {
    const take = await this.takes.find(id);
    if (!take) throw new ProblemError('not-found', 'take', 'There is no such take: it was deleted, here or in another window.');
    return take;
  }

  private async writeAll(): Promise<void> {
    this.writing = true;
    for (let record = this.queue.shift(); record; record = this.queue.shift()) {
      try {
        const warning = await this.mustHaveRoom();
        await this.takes.write(record);
        if (record.kind === 'begins') {
          this.seen.add(record.take);
          this.recording = record.take;
        }
        this.answer({ kind: 'takeStored', take: record.take, number: record.number, warning });
        if (record.kind !== 'ends') continue;
        this.recording = null;
        void this.asPlayed(record.take);
      } catch (error) {
        // After one that was refused: all that waits comes again, from that one on.
        if (error instanceof OutOfOrder) continue;
        this.queue.length = 0;
        this.logger.warn({ err: error }, 'a piece of a take was not written down');
        this.answer({ kind: 'takeRefused', reason: this.reasonOf(error) });
      }
    }
    this.writing = false;
  }

  /** A warning where the disk will be full before long. Throws where it nearly is. */
  private async mustHaveRoom(): Promise<string | null> {
    if (this.nowMs() - this.roomAtMs > ROOM_MS) {
      this.room = await this.roomIn(this.dataFolder);
      this.roomAtMs = this.nowMs();
    }
    if (this.room < ROOM_LEAST_BYTES) throw new NoRoom();
    return this.room < ROOM_SOON_BYTES ? `The disk has only ${Math.round(this.room / 1e6)} MB left for takes: free some space on it.` : null;
  }

  private reasonOf(error: unknown): string {
    if (error instanceof NoRoom || isDiskFull(error, this.dataFolder)) return 'The disk is full: what is recorded is kept in memory and written down as soon as there is room. Free some space.';
    return 'What is recorded cannot be written down just now; it is kept in memory and tried again every second.';
  }
}

class NoRoom extends Error {}

async function roomLeft(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}
