/** Dearer is nothing: what has no end would leave the method without one. */
const DEAREST = 1e15;

/**
 * Shares out rows among columns, each row to a column of its own, so that the sum of the costs is smallest: the Hungarian
 * method with potentials, O(rows * rows * columns) (Kuhn, "The Hungarian method for the assignment problem", 1955).
 * @param costs by row and column, up to 1e15 either way; what is more, or no number, counts as that. Not more rows than columns
 * @returns by row its column
 */
export function assign(costs: readonly (readonly number[])[]): number[] {
  const rows = costs.length;
  const columns = costs[0]?.length ?? 0;
  const ofRow = new Float64Array(rows + 1);
  const ofColumn = new Float64Array(columns + 1);
  /** By column, counted from 1: its row, 0 for none. */
  const rowOf = new Int32Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row;
    const least = new Float64Array(columns + 1).fill(Infinity);
    const before = new Int32Array(columns + 1);
    const done = new Uint8Array(columns + 1);
    let column = 0;
    do {
      done[column] = 1;
      const from = rowOf[column]!;
      let delta = Infinity;
      let next = 0;
      for (let c = 1; c <= columns; c++) {
        if (done[c]) continue;
        const cost = costs[from - 1]![c - 1]!;
        const rest = (Math.abs(cost) <= DEAREST ? cost : cost < 0 ? -DEAREST : DEAREST) - ofRow[from]! - ofColumn[c]!;
        if (rest < least[c]!) {
          least[c] = rest;
          before[c] = column;
        }
        if (least[c]! < delta) {
          delta = least[c]!;
          next = c;
        }
      }
      for (let c = 0; c <= columns; c++) {
        if (done[c]) {
          ofRow[rowOf[c]!]! += delta;
          ofColumn[c]! -= delta;
        } else least[c]! -= delta;
      }
      column = next;
    } while (rowOf[column] !== 0);
    while (column !== 0) {
      const previous = before[column]!;
      rowOf[column] = rowOf[previous]!;
      column = previous;
    }
  }
  const columnOf = new Array<number>(rows).fill(-1);
  for (let c = 1; c <= columns; c++) if (rowOf[c]! > 0) columnOf[rowOf[c]! - 1] = c - 1;
  return columnOf;
}
