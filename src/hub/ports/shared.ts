/** Places in the memory that a port and its thread share: messages written; 1 where what waits still is to be left out. */
export const WRITTEN = 0;
export const LEFT_OUT = 1;
