/** From here on controllers are channel mode messages: done at once, not held (MIDI 1.0, table IV). */
export const FIRST_MODE = 120;

/** What selects a parameter, and what is then entered for it (MIDI 1.0, table III). */
export const SELECT = { dataMsb: 6, dataLsb: 38, up: 96, down: 97, nrpnLsb: 98, nrpnMsb: 99, rpnLsb: 100, rpnMsb: 101 } as const;

/** Both halves of a selection are this where no parameter is selected. */
export const NULL_HALF = 127;

export const isDataEntry = (controller: number): boolean => controller === SELECT.dataMsb || controller === SELECT.dataLsb || controller === SELECT.up || controller === SELECT.down;

export const isSelector = (controller: number): boolean => controller >= SELECT.nrpnLsb && controller <= SELECT.rpnMsb;
