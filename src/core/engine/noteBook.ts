/** The most notes one mapping sounds at once: a chord. */
export const CHORD_MOST = 16;
/** Release velocity where nothing else was said: the middle (MIDI 1.0 recommends 64 where there is no sensor). */
export const RELEASE_VELOCITY = 64;

const NOTES = 128;
const CHANNELS = 16;
const NOBODY = 0;

/**
 * Who makes a note sound: a mapping by its index in the plan, or with a negative number something that stays the same from
 * plan to plan (a scene, the thru of an input).
 */
export type NoteOwner = number;

type Send = (output: number, owner: NoteOwner, on: boolean, channel: number, note: number, velocity: number) => void;

export interface SoundingNote {
  output: number;
  owner: NoteOwner;
  channel: number;
  note: number;
  releaseVelocity: number;
}

/**
 * Who made which note sound, so that every note on gets exactly one note off. A key belongs to whoever struck it last: where
 * a second one strikes a key that sounds already, the note of the first is ended, the key is the second's, and the first one's
 * release is silent. A note ends with the release velocity that it was struck with, unless its own end brings another.
 */
export class NoteBook {
  /** By output, channel and note: the owner, mappings counted from 1, or NOBODY. */
  private readonly owners: Int32Array;
  private readonly releases: Uint8Array;
  /** By mapping: the note it struck last that still sounds, or -1. */
  private readonly latest: Int16Array;

  constructor(
    outputs: number,
    mappings: number,
    private readonly send: Send,
  ) {
    this.owners = new Int32Array(outputs * CHANNELS * NOTES);
    this.releases = new Uint8Array(outputs * CHANNELS * NOTES);
    this.latest = new Int16Array(mappings).fill(-1);
  }

  strike(output: number, owner: NoteOwner, channel: number, note: number, velocity: number, releaseVelocity: number): void {
    this.endKey(output, channel, note);
    const at = place(output, channel, note);
    this.owners[at] = stored(owner);
    this.releases[at] = releaseVelocity;
    if (owner >= 0) this.latest[owner] = note;
    this.send(output, owner, true, channel, note, velocity);
  }

  /** Ends a note where it is this one's; else nothing. */
  end(output: number, owner: NoteOwner, channel: number, note: number, releaseVelocity?: number): void {
    if (this.owners[place(output, channel, note)] === stored(owner)) this.endKey(output, channel, note, releaseVelocity);
  }

  /** Ends what a key sounds, whoever struck it. */
  endKey(output: number, channel: number, note: number, releaseVelocity?: number): void {
    const at = place(output, channel, note);
    const owner = this.owners[at]!;
    if (owner === NOBODY) return;
    this.owners[at] = NOBODY;
    const released = owner > 0 ? owner - 1 : owner;
    if (released >= 0 && this.latest[released] === note) this.latest[released] = this.nextOf(released, output, channel);
    this.send(output, released, false, channel, note, releaseVelocity ?? this.releases[at]!);
  }

  /** Ends what every key of a channel sounds, whoever struck it. */
  endChannel(output: number, channel: number): void {
    for (let note = 0; note < NOTES; note++) this.endKey(output, channel, note);
  }

  /** Ends all notes of one owner. A mapping that sounds nothing costs nothing: Panic asks this of every one. */
  endAll(owner: NoteOwner): void {
    if (owner >= 0 && this.soundingOf(owner) < 0) return;
    this.each((note) => {
      if (note.owner === owner) this.endKey(note.output, note.channel, note.note);
    });
  }

  /** The note that a mapping struck last, while it sounds; else -1. */
  soundingOf(mapping: number): number {
    return this.latest[mapping] ?? -1;
  }

  /** The next higher note that an owner sounds on a channel, or -1: by it the notes of a chord are gone through. */
  nextOf(owner: NoteOwner, output: number, channel: number, note = -1): number {
    const from = place(output, channel, 0);
    for (let next = note + 1; next < NOTES; next++) if (this.owners[from + next] === stored(owner)) return next;
    return -1;
  }

  each(visit: (sounding: SoundingNote) => void): void {
    for (let at = 0; at < this.owners.length; at++) {
      const owner = this.owners[at]!;
      if (owner === NOBODY) continue;
      visit({
        output: Math.floor(at / (CHANNELS * NOTES)),
        owner: owner > 0 ? owner - 1 : owner,
        channel: (Math.floor(at / NOTES) % CHANNELS) + 1,
        note: at % NOTES,
        releaseVelocity: this.releases[at]!,
      });
    }
  }

  /** Takes over a note that sounds already, without a message. */
  adopt({ output, owner, channel, note, releaseVelocity }: SoundingNote): void {
    const at = place(output, channel, note);
    this.owners[at] = stored(owner);
    this.releases[at] = releaseVelocity;
    if (owner >= 0) this.latest[owner] = note;
  }
}

const stored = (owner: NoteOwner) => (owner >= 0 ? owner + 1 : owner);
const place = (output: number, channel: number, note: number) => (output * CHANNELS + channel - 1) * NOTES + note;
