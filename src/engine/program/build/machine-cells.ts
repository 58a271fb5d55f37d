/** Cells of a machine past those of the form: whether the design's spawns run, and what `findDue` has found. */
export const machineCells = ({ cells }: { readonly cells: { readonly size: number } }) => ({
  spawning: cells.size,
  dueAt: cells.size + 1,
  dueKind: cells.size + 2,
  dueIndex: cells.size + 3,
  size: cells.size + 4,
});
