import { kindOf, MESSAGE_KINDS, MESSAGES, type MessageSpec } from '../messages';
import type { RigDocument, RigMapping } from '../rig/document';
import { firstTaking, takes } from '../rig/outputs';
import { freshMessage } from './freshMessage';

type Way = Pick<RigMapping, 'message' | 'output'>;

/** A mapping's message by another output: one that the output cannot take becomes one that it can, as much alike as can be. */
export function throughOutput(rig: RigDocument, { message }: Way, output: string): Way {
  const wanted = rig.outputs.find(({ id }) => id === output);
  if (!wanted || takes(wanted) === kindOf(message).body) return { message, output };
  return { message: freshMessage(takes(wanted) === 'osc' ? 'osc' : 'controlChange', message, rig, output), output };
}

/** Another message of a mapping: where its output cannot take it, it goes by the first that can. */
export function withMessage(rig: RigDocument, { output }: Way, message: MessageSpec): Way {
  const { body } = kindOf(message);
  const now = rig.outputs.find(({ id }) => id === output);
  return { message, output: now && takes(now) === body ? output : (firstTaking(rig, body)?.id ?? output) };
}

/** The kinds of message that some output of a rig takes. */
export function possibleKinds(rig: RigDocument): MessageSpec['kind'][] {
  return MESSAGE_KINDS.filter((kind) => firstTaking(rig, MESSAGES[kind].body));
}
