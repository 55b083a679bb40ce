/** As the address of a message that must never be left out on a slow port: notes, programs, transport, clock. */
export const KEEP = -1;
