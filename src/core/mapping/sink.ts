/**
 * Where the engine's messages go. A call a message, with plain numbers so that nothing is allocated on the way;
 * `length` says how many of the three bytes count.
 */
export interface MessageSink {
  message(
    output: number,
    mapping: number,
    timeMs: number,
    status: number,
    data1: number,
    data2: number,
    length: number,
  ): void;
}

/** As the mapping of a message that no mapping asked for (panic). */
export const NO_MAPPING = -1;
