/** Where a row of the list stands: numbers, so that a row that stays where it is need not be drawn again. */
export interface RowPlace {
  topPx: number;
  /** From 1, among all `of`: those that are not in view do not exist. */
  position: number;
  of: number;
}

export const placed = ({ topPx, position, of }: RowPlace) => ({ style: { transform: `translateY(${topPx}px)` }, 'aria-setsize': of, 'aria-posinset': position });
