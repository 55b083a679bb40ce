import type { Engine } from '../core/engine/engine';
import type { MessageSink } from '../core/engine/sink';
import type { OscSent } from '../core/messages/osc';
import { STATUS } from '../core/midi/message';
import { heldByOsc } from '../core/voices/oscVoices';
import { encodeOsc } from '../net/osc/codec';
import type { Introduction } from './introduction';
import type { OutputDesk } from './outputs/desk';

/** What the engine says, on its way to the output desk: held back while something else is introduced; ends are never held back. */
export class Leaving implements MessageSink {
  constructor(
    private readonly desk: OutputDesk,
    private readonly engine: () => Engine,
    private readonly introduction: () => Introduction | null,
    readonly recalled: (scene: string) => void,
  ) {}

  midi(output: number, by: number, bytes: Uint8Array, length: number, address: number): void {
    const { plan, messageMs, ensemble } = this.engine();
    if (this.introduction()?.holdsBack(by) && (bytes[0]! & 0xf0) !== STATUS.noteOff) return;
    const { desk } = this;
    const { causedMs } = desk;
    // What comes in its own time was nobody's gesture.
    if (ensemble.isDue) desk.causedMs = 0;
    desk.atMs = messageMs;
    desk.midi(plan.outputIds[output]!, by, bytes, length, address);
    desk.causedMs = causedMs;
  }

  osc(output: number, by: number, path: string, args: readonly OscSent[], address: number, voice?: 'begins' | 'ends'): void {
    const { plan, messageMs } = this.engine();
    if (this.introduction()?.holdsBack(by) && voice !== 'ends') return;
    this.desk.atMs = messageMs;
    const id = plan.outputIds[output]!;
    const packet = encodeOsc(path, args);
    if (voice === undefined) return this.desk.osc(id, by, packet, address);
    const { held, end } = heldByOsc(path, Number(args[0]!.value), Number(args[1]!.value))!;
    this.desk.oscVoice(id, by, packet, held, end && encodeOsc(end.path, end.args));
  }
}
