import type { RigDocument } from '../../core/rig/document';
import type { RigEdit } from '../../core/rig/edit';
import type { Problem } from '../../protocol/problem';

/** The open rig as the web process answers it. */
export interface RigAnswer {
  id: string;
  document: RigDocument;
  revision: number;
  savedAtMs: number;
  stage: boolean;
}

/** A request that the server refused, with its reason in words for a person. */
export class RefusedError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
  }
}

export function fetchRig(): Promise<RigAnswer> {
  return ask('/api/rig');
}

export function postEdit(rigId: string, edit: RigEdit): Promise<RigAnswer> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}/edits`, { edit });
}

export function postStage(stage: boolean): Promise<RigAnswer> {
  return ask('/api/stage', { stage });
}

async function ask(path: string, body?: unknown): Promise<RigAnswer> {
  const init = body === undefined ? {} : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
  const response = await fetch(path, init);
  const answer = (await response.json()) as RigAnswer | { problem: Problem };
  if ('problem' in answer) throw new RefusedError(answer.problem);
  return answer;
}
