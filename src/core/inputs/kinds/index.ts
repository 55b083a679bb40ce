import { computer, type ComputerInput } from './computer';
import { gamepad, type GamepadInput } from './gamepad';
import { hands, type HandsInput } from './hands';
import type { InputBase, InputKind } from './kind';
import { microphone, type MicrophoneInput } from './microphone';
import { midi, type MidiInput } from './midi';
import { motion, type MotionInput } from './motion';
import { osc, type OscInput } from './osc';
import { points, type PointsInput } from './points';
import { recording, type RecordingInput } from './recording';
import { surface, type SurfaceInput } from './surface';

/** Where signals come from. */
export type RigInput = SurfaceInput | OscInput | GamepadInput | MotionInput | ComputerInput | MidiInput | MicrophoneInput | HandsInput | PointsInput | RecordingInput;

/** Every kind of input. */
export const INPUTS: { [K in RigInput['kind']]: InputKind<Extract<RigInput, { kind: K }>> } = { surface, osc, gamepad, motion, computer, midi, microphone, hands, points, recording };

/** What is known of a kind of input. */
export function inputKind(kind: RigInput['kind']): InputKind<InputBase & RigInput> {
  return INPUTS[kind] as unknown as InputKind<InputBase & RigInput>;
}

/** What an input is, for its card. */
export function inputInWords(input: RigInput): string {
  return inputKind(input.kind).words(input);
}
