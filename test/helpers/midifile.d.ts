/** The types of the package, as far as they are used (it has none of its own). */
declare module 'midifile' {
  export default class MIDIFile {
    constructor(buffer: ArrayBuffer);
    /** All channel and meta events with their time in ms, running through the tempo map. */
    getEvents(): { type: number; subtype: number; channel?: number; param1?: number; param2?: number; playTime: number; track?: number }[];
    getMidiEvents(): { subtype: number; channel: number; param1: number; param2?: number; playTime: number; track: number }[];
  }
}
