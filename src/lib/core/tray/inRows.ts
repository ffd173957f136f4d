/** From so many on, slots that have no place of their own stand in several rows. */
const mostInOneRow = 7;

/** Places for so many wells along a route that turns back at the end of each row, as the arches of a mouth do. */
export function inRows(count: number): { x: number; y: number }[] {
  const rows = Math.max(1, Math.ceil(count / mostInOneRow));
  const perRow = Math.ceil(count / rows);
  return Array.from({ length: count }, (_, i) => {
    const row = Math.floor(i / perRow);
    const along = ((i % perRow) + 0.5) / (rows === 1 ? count : perRow);
    return { x: row % 2 === 0 ? along : 1 - along, y: rows === 1 ? 0.5 : row / (rows - 1) };
  });
}
