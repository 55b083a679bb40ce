import type { Finger } from '../../core/surface/controlTouch';
import { streamOf } from '../../core/surface/controlKinds';
import { beginVoice, moveVoice, strikeOfGrowth, type VoiceControl, type VoicePlace, type VoiceTouch } from '../../core/surface/voiceTouch';
import { voiceEvent } from '../../core/voices/event';
import type { LiveConnection } from '../live/connection';

/** The voices that fingers hold on a control, by finger. */
export type VoicePicture = (voices: ReadonlyMap<number, VoicePlace>) => void;

interface Placed {
  control: VoiceControl;
  picture: VoicePicture;
  voices: Map<number, VoicePlace>;
}

interface Holding {
  control: string;
  voice: number;
  touch: VoiceTouch;
  at: Finger;
  /** While it is not known yet how hard it was struck: when it came down and how large it was. */
  waits: { sinceMs: number; size: number; timer: ReturnType<typeof setTimeout> } | null;
}

/** A touch is watched so long before it is said how hard it began, where that goes by its growth. */
const GROWTH_MS = 20;
const VOICES = 0xffff;

/** Which finger holds which voice of the controls that play streams: each finger is a voice from when it comes down until it lifts. */
export class VoiceDesk {
  private readonly fingers = new Map<number, Holding>();
  private readonly placed = new Map<string, Placed>();
  private voices = 0;

  constructor(private readonly live: Pick<LiveConnection, 'sendVoices'>) {}

  /** Puts a control on the desk; the function given back takes it away, ending the voices of the fingers on it. */
  place(control: VoiceControl, picture: VoicePicture): () => void {
    const entry = { control, picture, voices: new Map<number, VoicePlace>() };
    this.placed.set(control.id, entry);
    return () => {
      for (const [finger, held] of this.fingers) if (held.control === control.id) this.up(finger, performance.now());
      if (this.placed.get(control.id) === entry) this.placed.delete(control.id);
    };
  }

  down(finger: number, controlId: string, at: Finger, eventMs: number): void {
    const entry = this.placed.get(controlId);
    const begun = entry && !this.fingers.has(finger) ? beginVoice(entry.control, at) : null;
    if (!entry || !begun) return;
    const held: Holding = { control: controlId, voice: this.nextVoice(), touch: begun.touch, at, waits: null };
    this.fingers.set(finger, held);
    if (entry.control.kind === 'pitchField' && entry.control.strikeFrom === 'speed' && at.size > 0) {
      held.waits = { sinceMs: eventMs, size: at.size, timer: setTimeout(() => this.strikeNow(finger, performance.now()), GROWTH_MS) };
    } else this.begin(finger, entry, held, begun.place, eventMs);
  }

  move(finger: number, at: Finger, eventMs: number): void {
    const held = this.fingers.get(finger);
    const entry = held && this.placed.get(held.control);
    if (!held || !entry) return;
    held.at = at;
    if (held.waits) {
      if (eventMs - held.waits.sinceMs >= GROWTH_MS) this.strikeNow(finger, eventMs);
      return;
    }
    const place = moveVoice(entry.control, held.touch, at);
    if (place) return this.say(entry, finger, 'move', place, held.voice, eventMs);
    // Over the next key: another voice begins before this one ends, as fingers do it.
    const next = beginVoice(entry.control, at);
    if (!next) return;
    const before = held.voice;
    held.voice = this.nextVoice();
    held.touch = next.touch;
    this.begin(finger, entry, held, next.place, eventMs);
    this.end(entry, before, eventMs);
  }

  up(finger: number, eventMs: number): void {
    const held = this.fingers.get(finger);
    if (!held) return;
    // A tap that was over before it was known how hard it was is still a tap.
    if (held.waits) this.strikeNow(finger, eventMs);
    this.fingers.delete(finger);
    const entry = this.placed.get(held.control);
    if (!entry) return;
    entry.voices.delete(finger);
    this.end(entry, held.voice, eventMs);
    entry.picture(entry.voices);
  }

  /** The line is back, and the hub has ended what this page held: what fingers hold begins again, where they are now. */
  sayHeldAgain(eventMs = performance.now()): void {
    for (const [finger, held] of this.fingers) {
      const entry = this.placed.get(held.control);
      const begun = entry && !held.waits ? beginVoice(entry.control, held.at) : null;
      if (!entry || !begun) continue;
      held.touch = { ...begun.touch, beganAt: held.touch.beganAt };
      this.begin(finger, entry, held, begun.place, eventMs);
    }
  }

  private strikeNow(finger: number, eventMs: number): void {
    const held = this.fingers.get(finger);
    const entry = held && this.placed.get(held.control);
    if (!held?.waits || !entry) return;
    const { sinceMs, size, timer } = held.waits;
    clearTimeout(timer);
    held.waits = null;
    const begun = beginVoice(entry.control, held.at);
    if (begun) this.begin(finger, entry, held, { ...begun.place, strike: strikeOfGrowth(held.at.size - size, eventMs - sinceMs) }, eventMs);
  }

  private begin(finger: number, entry: Placed, held: Holding, place: VoicePlace, eventMs: number): void {
    this.say(entry, finger, 'on', place, held.voice, eventMs);
  }

  /** With the line down nothing would be heard, so nothing is shown either: the page never pretends. */
  private say(entry: Placed, finger: number, kind: 'on' | 'move', place: VoicePlace, voice: number, eventMs: number): void {
    const { pitch, strike, pressure, slide } = place;
    const said = this.live.sendVoices([{ ...voiceEvent(kind), stream: streamOf(entry.control)!, voice, pitch, strike, pressure, slide }], performance.timeOrigin + eventMs);
    if (said) entry.voices.set(finger, place);
    else entry.voices.delete(finger);
    entry.picture(entry.voices);
  }

  /** Where it cannot be said the hub has ended the voice already, with the line. */
  private end(entry: Placed, voice: number, eventMs: number): void {
    this.live.sendVoices([{ ...voiceEvent('off'), stream: streamOf(entry.control)!, voice }], performance.timeOrigin + eventMs);
  }

  private nextVoice(): number {
    this.voices = (this.voices % VOICES) + 1;
    return this.voices;
  }
}
