import type { Engine } from '../core/engine/engine';
import type { EventNow } from '../core/engine/event';
import { POSITIONS_PER_BEAT } from '../core/engine/transport';
import type { RigDocument, RigScene } from '../core/rig/document';
import { isTransportAlone } from '../core/rig/sceneTransport';
import { msPerBeat } from '../core/time/musicalTime';
import { systemMs } from '../net/systemMs';
import type { PieceStanding, Standing, Turned } from '../protocol/live';

/** The scene by which a rig is brought to where it stood; no scene of a rig is called so. */
const AS_IT_STOOD = ' as it stood';

/** What scenes have done to the rig that plays, and is not in its document (docs/decisions/0038). */
export class StandsBy {
  /** The scene that was recalled last. */
  scene: string | null = null;
  /** By surface: the page and the bank that scenes turned to. */
  readonly turned = new Map<string, Turned>();

  /** Another rig begins anew. */
  forget(): void {
    this.scene = null;
    this.turned.clear();
  }

  recalled(scene: RigScene, atMs: number): void {
    const { pages, banks = {} } = scene;
    for (const [surface, page] of Object.entries(pages)) this.turned.set(surface, { ...this.turned.get(surface), page: { to: page, atMs } });
    for (const [surface, bank] of Object.entries(banks)) this.turned.set(surface, { ...this.turned.get(surface), bank: { to: bank, atMs } });
    if (!isTransportAlone(scene)) this.scene = scene.id;
  }

  /** As a hub before this one left it; what is switched is brought about by the scene of `withStanding`. */
  takeUp({ scenes }: RigDocument, { scene, turned }: Standing): void {
    this.scene = scenes.some(({ id }) => id === scene) ? scene : null;
    for (const [surface, turns] of Object.entries(turned)) this.turned.set(surface, turns);
  }

  /** All that is otherwise than the rig says, by scenes and taps. */
  now({ plan, on, voices, ensemble, tappedBpm }: Engine): Omit<Standing, 'piece'> {
    const others = <T>(things: readonly T[], idOf: (thing: T) => string, was: (thing: T, i: number) => boolean, is: (i: number) => boolean) =>
      Object.fromEntries(things.flatMap((thing, i) => (was(thing, i) === is(i) ? [] : [[idOf(thing), is(i)] as const])));
    return {
      scene: this.scene,
      mappings: others(plan.mappings, ({ rig }) => rig.id, ({ rig }) => rig.on, (m) => on[m]! > 0),
      voiceMappings: others(plan.voices, ({ rig }) => rig.id, ({ rig }) => rig.on, (v) => voices.on[v]! > 0),
      members: others(plan.ensemble.members, ({ rig }) => rig.id, ({ rig }) => rig.on, (i) => ensemble.isSwitchedOn(i)),
      alone: others(plan.rig.outputs, ({ receiver }) => receiver, (_, o) => plan.aloneOutput[o]!, (o) => voices.alone[o]! > 0),
      tappedBpm,
      turned: Object.fromEntries(this.turned),
    };
  }
}

/** What brings a rig to where it stood: as if by a scene, so that the log has it too. To be given before any value is known, so that nothing leaves by it. */
export function toStanding(rig: RigDocument, { mappings, voiceMappings, members, alone, tappedBpm }: Standing): EventNow[] {
  const scene: RigScene = { id: AS_IT_STOOD, name: '', mappings, voiceMappings, members, alone, pages: {}, values: {}, messages: [], glideMs: 0 };
  return [
    { kind: 'rig', rig: { ...rig, scenes: [...rig.scenes, scene] } },
    { kind: 'recall', scene: scene.id },
    { kind: 'rig', rig },
    ...(tappedBpm === null ? [] : [{ kind: 'tapped', bpm: tappedBpm } as const]),
  ];
}

/** A rig that plays nothing: all that was goes, as with an edit that takes it away. */
const NOTHING_IN_IT = { signals: [], derived: [], mappings: [], streams: [], members: [], voiceMappings: [], surfaces: [], scenes: [] } satisfies Partial<RigDocument>;

/** What ends a rig before another follows; `isLed`: a clock that comes in leads the piece of both. */
export function toNothing({ plan: { rig }, running, tappedBpm }: Engine, isLed: boolean): EventNow[] {
  return [
    // Where the piece was means nothing in another.
    ...(running && !isLed ? [{ kind: 'transport', does: 'stop' } as const] : []),
    ...(isLed ? [] : [{ kind: 'goTo', beat: 0 } as const]),
    // What was tapped would hold in a rig of the same tempo.
    ...(tappedBpm === null ? [] : [{ kind: 'tapped', bpm: rig.tempoBpm } as const]),
    { kind: 'rig', rig: { ...rig, ...NOTHING_IN_IT } },
  ];
}

/** What lets a piece go on where it would be by now. Receivers are told a song position, which counts sixteenths, and the clocks from there to where it is. */
export function toPiece({ running, bpm, beat, atSystemMs }: PieceStanding): EventNow[] {
  if (!running) return beat === 0 ? [] : [{ kind: 'goTo', beat }];
  const now = beat + (systemMs() - atSystemMs) / msPerBeat(bpm);
  const position = Math.floor(now * POSITIONS_PER_BEAT) / POSITIONS_PER_BEAT;
  return [
    // A clock that led it may be gone as well: it is missed by nobody.
    { kind: 'tapped', bpm },
    { kind: 'goTo', beat: position },
    { kind: 'transport', does: 'continue' },
    { kind: 'nudge', beats: now - position },
  ];
}
