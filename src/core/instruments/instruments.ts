/** What can be changed of a practice instrument, from 0 to 1. */
export interface Parameter {
  id: string;
  words: string;
  /** Where it lies before anything moved it. */
  rest: number;
}

export const INSTRUMENT_IDS = ['drone', 'wind', 'bowed', 'struck'] as const;
export type InstrumentId = (typeof INSTRUMENT_IDS)[number];

/** The instruments to practise and test with. What sounds by itself does so as its first parameter rises from 0. */
export const INSTRUMENTS: Readonly<Record<InstrumentId, { words: string; parameters: readonly Parameter[] }>> = {
  drone: {
    words: 'drone',
    parameters: [
      { id: 'speed', words: 'speed', rest: 0 },
      { id: 'roughness', words: 'roughness', rest: 0.2 },
      { id: 'hum', words: 'hum', rest: 0 },
    ],
  },
  wind: {
    words: 'noise and wind',
    parameters: [
      { id: 'strength', words: 'strength', rest: 0 },
      { id: 'swell', words: 'swell', rest: 0 },
      { id: 'direction', words: 'direction', rest: 0.5 },
      { id: 'height', words: 'height', rest: 0.3 },
      { id: 'spray', words: 'spray', rest: 0 },
    ],
  },
  bowed: {
    words: 'bowed metal',
    parameters: [
      { id: 'pressure', words: 'pressure', rest: 0 },
      { id: 'place', words: 'place of the bow', rest: 0.5 },
      { id: 'size', words: 'size', rest: 0.5 },
      { id: 'depth', words: 'depth', rest: 0.3 },
    ],
  },
  struck: {
    words: 'struck things',
    parameters: [
      { id: 'ring', words: 'ring', rest: 0.5 },
      { id: 'brightness', words: 'brightness', rest: 0.5 },
      { id: 'nearness', words: 'nearness', rest: 0.8 },
    ],
  },
};

/** A controller of a channel that moves a parameter. */
export interface Learned {
  parameter: string;
  channel: number;
  controller: number;
}

/** How a stand-in receiver sounds. */
export interface ReceiverSound {
  instrument: InstrumentId;
  learned: Learned[];
  /** Whether each channel is a part of its own that sounds one note, the newest; else all are one part of many notes. */
  parts?: boolean;
}

export const LEARNED_MOST = 32;
