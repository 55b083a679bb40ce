/** Milliseconds of a clock that all processes of this computer share. It begins with the computer and stands still, or not, while that sleeps. */
export const systemMs = (): number => Number(process.hrtime.bigint()) / 1e6;
