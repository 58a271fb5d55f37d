/** A copy of a column with room for twice as many rows. */
export function widened<Column extends Float64Array | Int32Array | Uint16Array | Uint8Array>(
  column: Column,
): Column {
  const wider = new (column.constructor as new (length: number) => Column)(column.length * 2);
  wider.set(column);
  return wider;
}
