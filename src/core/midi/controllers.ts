/** From here on controllers are channel mode messages: done at once, not held (MIDI 1.0, table IV). */
export const FIRST_MODE = 120;

/** What selects a parameter, and what is then entered for it (MIDI 1.0, table III). */
export const SELECT = { dataMsb: 6, dataLsb: 38, up: 96, down: 97, nrpnLsb: 98, nrpnMsb: 99, rpnLsb: 100, rpnMsb: 101 } as const;

/** Both halves of a selection are this where no parameter is selected. */
export const NULL_HALF = 127;

export const isDataEntry = (controller: number): boolean => controller === SELECT.dataMsb || controller === SELECT.dataLsb || controller === SELECT.up || controller === SELECT.down;

export const isSelector = (controller: number): boolean => controller >= SELECT.nrpnLsb && controller <= SELECT.rpnMsb;

/** Puts the controllers of its channel back (MMA RP-015). */
export const RESET_CONTROLLERS = 121;
export const ALL_SOUND_OFF = 120;
const ALL_NOTES_OFF = 123;

/** Whether a channel mode message ends all notes of its channel: the changes of mode above all notes off do, too (MIDI 1.0). */
export const endsAllNotes = (controller: number): boolean => controller === ALL_SOUND_OFF || controller >= ALL_NOTES_OFF;

/** What a reset of all controllers leaves alone (MMA RP-015): banks, volume, pan, effects, sounds, and channel mode. */
export const staysAtReset = (controller: number): boolean =>
  controller === 0 || controller === 32 || controller === 7 || controller === 10 || (controller >= 70 && controller <= 79) || (controller >= 91 && controller <= 95) || controller >= FIRST_MODE;

/** The pedals that it lets go of: sustain, portamento, sostenuto, soft. */
export const RESET_PEDALS = [64, 65, 66, 67] as const;
/** Where it puts the controllers that it names, as a share of their range: modulation, expression, and those pedals. */
export const AFTER_RESET: ReadonlyMap<number, 0 | 1> = new Map([[1, 0], [11, 1], ...RESET_PEDALS.map((pedal) => [pedal, 0] as const)]);

/** Whether a controller makes another parameter the selected one, or none. */
export const movesSelection = (controller: number): boolean => isSelector(controller) || controller === RESET_CONTROLLERS;

/** The pedals under which notes sound on though they were ended: sustain, sostenuto, hold 2 (MIDI 1.0, table III). */
export const HOLDING_PEDALS = [64, 66, 69] as const;
export const holdsNotes = (controller: number): boolean => controller >= 64 && (HOLDING_PEDALS as readonly number[]).includes(controller);

/** Whether a controller is a value that is held and nothing else: it selects nothing and ends nothing. */
export const isPlain = (controller: number): boolean => !isSelector(controller) && controller < FIRST_MODE;
