import type { RigDocument, RigScene } from '../rig/document';
import { derive, freshDerived } from '../signal/derive';
import { sayPresent } from './drive';
import { glideTo } from './glides';
import { goOff, isThere } from './memory';
import { passMessage, SCENE } from './pass';
import type { Running } from './running';
import { liftPedal, mergeAgain } from './send';
import { BY_SCENE } from './sink';
import { SLOTS } from './slots';
import { setAlone, switchVoices } from './voices/switching';

/** Recalls a scene. Surfaces turn their pages themselves. */
export function recallScene(r: Running, scene: RigScene): void {
  const { plan, notes } = r;
  plan.mappings.forEach(({ rig }, m) => {
    const on = scene.mappings[rig.id];
    if (on !== undefined) switchMapping(r, m, on);
  });
  plan.voices.forEach(({ rig }, v) => {
    const on = scene.voiceMappings?.[rig.id];
    if (on !== undefined) switchVoices(r, v, on);
  });
  plan.ensemble.members.forEach(({ rig }, i) => {
    const on = scene.members?.[rig.id];
    if (on !== undefined) r.ensemble.switchMember(i, on);
  });
  plan.rig.outputs.forEach(({ receiver }, output) => {
    const alone = scene.alone?.[receiver];
    if (alone !== undefined) setAlone(r, output, alone);
  });
  // What an earlier scene began sounds until the next one.
  notes.endAll(SCENE);
  r.memory.scene = scene.id;
  for (const { output, bytes } of scene.messages) passMessage(r, SCENE, plan.outputIds.indexOf(output), bytes, BY_SCENE);
  for (const [id, to] of Object.entries(scene.values)) glideTo(r, plan.signalIndex.get(id)!, to, scene.glideMs);
}

/** Whether what a scene sent is still what it says, so that its notes may go on, in another document. */
export function saysTheSame(sceneId: string | null, before: RigDocument, after: RigDocument): boolean {
  const [was, is] = [before, after].map(({ scenes }) => scenes.find(({ id }) => id === sceneId)?.messages);
  return was === is || (is !== undefined && JSON.stringify(was) === JSON.stringify(is));
}

/** The scenes that wait for what this sample brought. What a scene itself moves recalls no other. */
export function scenesTriggeredBy(r: Running, signal: number): string[] {
  const { plan, memory } = r;
  const value = memory.values[signal]!;
  const scenes: string[] = [];
  plan.triggers.forEach((trigger, t) => {
    if (trigger.signal !== signal) return;
    const was = memory.triggered[t]! > 0;
    const is = isThere(trigger, value);
    memory.triggered[t] = Number(is);
    // A program change that comes again recalls again, a stream of equal samples does not; a gate must go off between.
    const again = !Number.isNaN(trigger.at) && memory.times.stillUntilMs(signal) > -Infinity;
    if (is && (!was || again)) scenes.push(trigger.scene);
  });
  return scenes;
}

/** The scenes whose derived signals have come to where they recall them. What a scene glides to recalls no other. */
export function scenesTriggeredByDerived({ plan, memory }: Running): string[] {
  const scenes: string[] = [];
  plan.triggers.forEach((trigger, t) => {
    const value = memory.values[trigger.signal]!;
    if (!trigger.isDerived || Number.isNaN(value)) return;
    const was = memory.triggered[t]!;
    const is = isThere(trigger, value);
    memory.triggered[t] = Number(is);
    if (is && was === 0 && memory.glides.size === 0) scenes.push(trigger.scene);
  });
  return scenes;
}

/**
 * What derived signals are found at, without a sample that brought them there, recalls nothing. One that has no value yet is worked
 * out for that, since its first press must count.
 */
export function lookAtDerivedTriggers({ plan, memory, nowMs, transport }: Running): void {
  plan.triggers.forEach((trigger, t) => {
    if (!trigger.isDerived) return;
    const known = memory.values[trigger.signal]!;
    const planned = plan.derived[trigger.signal - plan.rig.signals.length]!;
    const value = Number.isNaN(known) ? derive(planned, freshDerived(), memory.values, nowMs, transport.pieceTime, memory.times) : known;
    memory.triggered[t] = Number(isThere(trigger, value));
  });
}

/** Switches a mapping on or off while playing. Off ends its notes; on says what it stands at. */
function switchMapping(r: Running, m: number, on: boolean): void {
  const { memory, plan } = r;
  if (Boolean(memory.on[m]) === on) return;
  memory.on[m] = Number(on);
  if (on) sayPresent(r, m, 'comeOn');
  else {
    r.player.silence(m);
    goOff(plan.mappings[m]!, memory.state, m * SLOTS);
    r.active.delete(m);
    liftPedal(r, plan.mappings[m]!.address, (mappings) => mappings.some((other) => memory.on[other]));
  }
  mergeAgain(r, m);
}
