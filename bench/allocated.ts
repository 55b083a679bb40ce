import { Session, type HeapProfiler } from 'node:inspector';

/** Of what is allocated one piece in so many bytes is looked at. */
const LOOKED_AT_BYTES = 512;

/**
 * Bytes that `work` allocates, found by looking at a part of all that is allocated, also where it is thrown away again. What the heap
 * holds before and after tells less: it counts whole buffers, and what was collected meanwhile is not in it.
 */
export function allocated(work: () => void): number {
  const measured = () => work();
  const session = new Session();
  session.connect();
  let bytes = 0;
  session.post('HeapProfiler.startSampling', { samplingInterval: LOOKED_AT_BYTES, includeObjectsCollectedByMajorGC: true, includeObjectsCollectedByMinorGC: true });
  measured();
  session.post('HeapProfiler.stopSampling', (error, { profile }) => {
    if (error) throw error;
    bytes = sizeBelow(profile.head, measured.name);
  });
  session.disconnect();
  return bytes;
}

/** What was allocated in functions of a name and in all that they call. */
function sizeBelow({ callFrame, selfSize, children }: HeapProfiler.SamplingHeapProfileNode, name: string, within = false): number {
  const inside = within || callFrame.functionName === name;
  return children.reduce((sum, child) => sum + sizeBelow(child, name, inside), inside ? selfSize : 0);
}
