import type { RigSignal } from '../../../core/rig/document';

/** What the shaping of an axis takes for its signal. */
export const AXIS_SIGNAL: RigSignal = { id: 'axis', name: 'Axis', input: '', kind: 'continuous', unit: 'unit', range: [0, 1] };
