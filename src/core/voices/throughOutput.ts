import type { RigDocument } from '../rig/document';
import { findStream } from '../rig/find';
import { takes } from '../rig/outputs';
import type { RigVoiceMapping, VoiceAxis } from '../rig/voices';
import { kindOfAxis } from './axisMessages';
import { freshVoiceMapping } from './freshVoiceMapping';
import { bodyOf } from './layout';

/** A voice mapping by another output: where that takes something else, its layout and axes become what a fresh one has there. */
export function voicesThroughOutput(rig: RigDocument, mapping: RigVoiceMapping, output: string): RigVoiceMapping {
  const { pressure, slide, ...rest } = mapping;
  const wanted = rig.outputs.find(({ id }) => id === output);
  const stream = findStream(rig, mapping.stream);
  if (!wanted || !stream || takes(wanted) === bodyOf(mapping.layout)) return { ...mapping, output };
  const fresh = freshVoiceMapping(rig, stream.stream ?? stream, output, mapping.pitch.bends).change.to as RigVoiceMapping;
  return { ...rest, output, layout: fresh.layout, ...otherwise('pressure', pressure, fresh.pressure), ...otherwise('slide', slide, fresh.slide) };
}

/** An axis keeps its shaping and its direction. */
function otherwise<K extends 'pressure' | 'slide'>(key: K, axis: VoiceAxis | undefined, fresh: VoiceAxis | undefined): { [P in K]?: VoiceAxis } {
  if (!axis || !fresh) return {};
  const { least, most } = kindOfAxis(axis.message);
  const [from, to] = Number.isFinite(most) ? axis.range.map((end) => (end - least) / (most - least)) : axis.range;
  const [a, b] = fresh.range;
  const at = (share: number) => a + Math.min(1, Math.max(0, share)) * (b - a);
  const whole = kindOfAxis(fresh.message).body === 'midi' ? Math.round : (value: number) => value;
  return { [key]: { shaping: axis.shaping, message: fresh.message, range: [whole(at(from!)), whole(at(to!))] } } as { [P in K]?: VoiceAxis };
}
