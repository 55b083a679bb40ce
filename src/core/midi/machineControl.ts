/** Command bytes of MIDI Machine Control 1.0 (RP-013, section 5), sent as F0 7F device 06 command F7. */
export const MACHINE_CODES = {
  stop: 0x01,
  play: 0x02,
  deferredPlay: 0x03,
  fastForward: 0x04,
  rewind: 0x05,
  recordStrobe: 0x06,
  recordExit: 0x07,
  pause: 0x09,
} as const;
export type MachineCommand = keyof typeof MACHINE_CODES;
export const MACHINE_COMMANDS = Object.keys(MACHINE_CODES) as MachineCommand[];
