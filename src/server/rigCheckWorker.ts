import { parentPort } from 'node:worker_threads';
import { checkRig } from '../protocol/rig';
import type { Answered, Asked } from './rigChecks';

parentPort!.on('message', ({ number, candidate }: Asked) => parentPort!.postMessage({ number, checked: checkRig(candidate) } satisfies Answered));
