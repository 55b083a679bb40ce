import { inputKind } from '../../../core/inputs/kinds';
import type { RigDocument } from '../../../core/rig/document';
import type { DeviceState, InputsState } from '../../../protocol/live';

/**
 * The inputs of a rig that are not here, by their names: devices that left or fell silent, and those that were not heard at
 * all since the start. Surfaces are listed apart; what a rig plays by itself cannot be missing.
 */
export function missingInputs(rig: RigDocument, state: InputsState | null): { name: string; why: string }[] {
  if (!state) return [];
  return rig.inputs.flatMap((input) => {
    if (!inputKind(input.kind).canBeAway) return [];
    // An open OSC input takes its addresses from any sender: it is here while one of them speaks.
    const devices = state.devices.filter((device) => device.input === input.id);
    if (devices.some((device) => device.state === 'live')) return [];
    return [{ name: input.name, why: whyMissing(devices) }];
  });
}

function whyMissing(devices: readonly DeviceState[]): string {
  if (devices.some(({ state }) => state === 'silent')) return 'is silent';
  return devices.length > 0 ? 'is gone' : 'is not here';
}
