import type { RigDocument, RigSurface } from '../core/rig/document';
import { surfaceSignals, surfaceStreams } from '../core/surface/controlKinds';
import { FRAME, sampleCount, sampleOnPageMs, samplesFault, sampleSignal, sampleTimeMs, sampleValue } from '../protocol/frames';
import { HeldVoices } from './heldVoices';
import type { Numbering } from './numbering';
import type { Player } from './player';
import type { Refuse } from './refuse';
import { believable, hubTimeMs } from './time';
import type { Watcher } from './watcher';

/** What one page plays: the signals and streams of its surface and no others, and the gates and voices that it holds. */
export class Played {
  /** The surface this page plays, or null for the screens of the bench. */
  surface: string | null = null;
  private known: { rig: RigDocument | null; surface: string | null } | null = null;
  /** The signals that this page may send, and those of them that are gates. */
  private allowed = new Set<number>();
  private gates = new Set<number>();
  private readonly held = new Set<number>();
  private allowedStreams = new Set<number>();
  private readonly voices: HeldVoices;

  constructor(
    private readonly player: Player,
    private readonly watcher: Watcher,
    private readonly refuse: Refuse,
    /** Whether the page is a joined device's, which is told no names. */
    private readonly isDevice: () => boolean,
  ) {
    this.voices = new HeldVoices(player);
  }

  /**
   * After the rig or the surface changed: what may be played now.
   * @returns the numbers of what its surface plays and shows; null where that is as before
   */
  allow(): { signals: Set<number>; streams: Set<number> } | null {
    const { rig, signals, streams } = this.player;
    // Most edits touch neither signals nor surfaces.
    if (this.known && this.known.surface === this.surface && this.known.rig?.signals === rig?.signals && this.known.rig?.surfaces === rig?.surfaces && this.known.rig?.streams === rig?.streams) return null;
    this.known = { rig, surface: this.surface };
    const { plays, shows } = this.surfaceNow ? surfaceSignals(this.surfaceNow) : { plays: [], shows: [] };
    this.allowedStreams = new Set(numbersOf(streams, this.surfaceNow ? surfaceStreams(this.surfaceNow) : []));
    this.voices.endOthers(this.allowedStreams);
    this.allowed = new Set(numbersOf(signals, plays));
    // Its lift would be refused.
    for (const number of this.held) if (!this.allowed.has(number)) this.release(number);
    this.gates = new Set(numbersOf(signals, rig?.signals.flatMap(({ id, kind }) => (kind === 'gate' ? [id] : []))));
    return { signals: new Set(numbersOf(signals, [...plays, ...shows])), streams: this.allowedStreams };
  }

  /** Whether the surface of this page plays a signal. */
  plays(signal: string): boolean {
    const number = this.player.signals.find(signal);
    return number !== undefined && this.allowed.has(number);
  }

  /** Whether a control of the surface of this page plays a stream. */
  playsStream(stream: string): boolean {
    const number = this.player.streams.find(stream);
    return number !== undefined && this.allowedStreams.has(number);
  }

  get surfaceNow(): RigSurface | undefined {
    return this.player.rig?.surfaces.find((candidate) => candidate.id === this.surface);
  }

  /** Takes a frame of samples: all of it, or, where any of it is wrong, nothing. */
  take(view: DataView): void {
    const fault = samplesFault(view);
    if (fault) return this.refuse('malformed-frame', fault.field, fault.message);
    const count = sampleCount(view);
    for (let i = 0; i < count; i++) {
      const number = sampleSignal(view, i);
      if (!this.allowed.has(number)) {
        const name = (this.isDevice() ? undefined : this.player.signals.idOf(number)) ?? `number ${number}`;
        return this.refuse('unknown-signal', `samples[${i}].signal`, `This page has no control with the signal ${name}.`);
      }
      if (!Number.isFinite(sampleValue(view, i))) {
        return this.refuse('not-finite', `samples[${i}].value`, `The value of ${this.player.signals.idOf(number)} must be a finite number.`);
      }
    }
    const timeMs = believable(sampleTimeMs(view));
    const { outputs } = this.player;
    outputs.arrivedMs = hubTimeMs();
    outputs.onPageMs = sampleOnPageMs(view);
    const heldOn = view.getUint8(0) === FRAME.heldOn;
    for (let i = 0; i < count; i++) this.play(sampleSignal(view, i), timeMs, sampleValue(view, i), heldOn);
  }

  /** Takes a frame of voices: all of it, or, where any of it is wrong, nothing. */
  takeVoices(view: DataView): void {
    const { player } = this;
    this.voices.take(view, this.refuse, (stream, i) => {
      if (this.allowedStreams.has(stream)) return stream;
      const name = (this.isDevice() ? undefined : player.streams.idOf(stream)) ?? `number ${stream}`;
      this.refuse('unknown-signal', `voices[${i}].stream`, `This page has no control with the stream ${name}.`);
      return null;
    });
  }

  /**
   * Releases the gates and voices that this page holds.
   * @param lost whether that is since nobody hears it any more: a finger may still be there, and says so when it is back
   */
  letGo(lost = false): void {
    for (const number of this.held) this.release(number, lost);
    this.voices.endAll();
  }

  private play(number: number, timeMs: number, value: number, heldOn: boolean): void {
    if (this.gates.has(number)) {
      if (value > 0) {
        this.held.add(number);
        this.player.incoming.pressedBy.set(number, this.watcher);
      } else this.held.delete(number);
    }
    this.player.incoming.sample(number, timeMs, value, this.watcher, heldOn);
  }

  /** A gate that another page has pressed since is that one's: a page that is back is often there before its old line ends. */
  private release(number: number, lost = false): void {
    this.held.delete(number);
    if (this.player.incoming.pressedBy.get(number) !== this.watcher) return;
    this.player.incoming.pressedBy.delete(number);
    this.player.incoming.sample(number, hubTimeMs(), 0, this.watcher);
    if (lost) this.player.incoming.lost.add(number);
  }
}

function numbersOf(numbering: Numbering, ids: readonly string[] = []): number[] {
  return ids.map((id) => numbering.find(id)).filter((number) => number !== undefined);
}
