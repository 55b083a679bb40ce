/** A number with what it counts, as `1 control` or `1,200 events`. */
export const counted = (count: number, one: string): string => `${count.toLocaleString('en')} ${count === 1 ? one : `${one}s`}`;
