/** Cells on the way from a grade to a grade; null: waiting. */
export interface Flow {
  from: string | null;
  to: string | null;
  cells: number;
}

/** A grade on one side of the picture. */
export interface Bar {
  grade: string | null;
  cells: number;
  y: number;
  height: number;
}

/** A way from the left to the right, by its edges. */
export interface Band extends Flow {
  left: number;
  right: number;
  thickness: number;
}

const GAP = 14;

function bars(
  order: readonly (string | null)[],
  cellsOf: (grade: string | null) => number,
  perCell: number,
): Bar[] {
  let y = 0;
  return order.map((grade) => {
    const cells = cellsOf(grade);
    const bar = { grade, cells, y, height: cells * perCell };
    y += bar.height + GAP;
    return bar;
  });
}

const sum = (flows: readonly Flow[]) => flows.reduce((all, { cells }) => all + cells, 0);

/**
 * Where grades and the ways between them lie: both sides in the given order, as high as they have
 * cells, ways stacked in the order of the other side so that few cross.
 * @param height of all cells together, px; gaps come on top.
 */
export function flowLayout(
  flows: readonly Flow[],
  order: { left: readonly (string | null)[]; right: readonly (string | null)[] },
  height: number,
): { left: Bar[]; right: Bar[]; bands: Band[]; height: number } {
  const perCell = height / Math.max(1, sum(flows));
  const left = bars(order.left, (one) => sum(flows.filter(({ from }) => from === one)), perCell);
  const right = bars(order.right, (one) => sum(flows.filter(({ to }) => to === one)), perCell);
  const free = new Map(right.map(({ grade, y }) => [grade, y]));
  const bands = left.flatMap(({ grade, y }) => {
    let at = y;
    return right.flatMap((target): Band[] => {
      const flow = flows.find(({ from, to }) => from === grade && to === target.grade);
      if (!flow) return [];
      const thickness = flow.cells * perCell;
      const into = free.get(target.grade) ?? 0;
      free.set(target.grade, into + thickness);
      const band = { ...flow, left: at, right: into, thickness };
      at += thickness;
      return [band];
    });
  });
  const bottom = (side: Bar[]) => {
    const end = side.at(-1);
    return end ? end.y + end.height : 0;
  };
  return { left, right, bands, height: Math.max(bottom(left), bottom(right)) };
}
