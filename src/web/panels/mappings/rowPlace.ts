/** Where a row of the list stands: numbers, so that a row that stays where it is need not be drawn again. */
export interface RowPlace {
  topPx: number;
  /** From 1, among all `of`: those that are not in view do not exist. */
  position: number;
  of: number;
}

/** By `top`, not by a transform: what drags bands measures the places of rows without their transforms, which put all of them on the first. */
export const placed = ({ topPx, position, of }: RowPlace) => ({ style: { top: topPx }, 'aria-setsize': of, 'aria-posinset': position });
