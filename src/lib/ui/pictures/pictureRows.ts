import type { ListedPicture } from '$core/picture/pictureSearch';

/** One row of a windowed list of pictures: what they belong to, or as many as lie side by side. */
export type PictureRow =
  | { kind: 'head'; key: string; visitId: string; trayNumber: number | null }
  | { kind: 'pictures'; key: string; pictures: readonly ListedPicture[] };

/** Pictures in rows of so many, those of one visit and tray together under a head of their own where that is wished. */
export function rowsOf(pictures: readonly ListedPicture[], columns: number, grouped: boolean): PictureRow[] {
  const rows: PictureRow[] = [];
  const lay = (group: readonly ListedPicture[]) => {
    for (let i = 0; i < group.length; i += columns) {
      const some = group.slice(i, i + columns);
      rows.push({ kind: 'pictures', key: some[0].pictureId, pictures: some });
    }
  };
  if (!grouped) {
    lay(pictures);
    return rows;
  }
  const together = (a: ListedPicture, b: ListedPicture) =>
    a.visitId === b.visitId && (a.trayNumber ?? 1) === (b.trayNumber ?? 1);
  for (let from = 0; from < pictures.length;) {
    let until = from + 1;
    while (until < pictures.length && together(pictures[from], pictures[until])) until++;
    const { visitId, trayNumber, pictureId } = pictures[from];
    rows.push({ kind: 'head', key: `head ${pictureId}`, visitId, trayNumber });
    lay(pictures.slice(from, until));
    from = until;
  }
  return rows;
}

/** Which row a picture lies in, and how far along it; null for one that lies in none. */
export function rowOf(rows: readonly PictureRow[], pictureId: string): { row: number; at: number } | null {
  for (const [row, each] of rows.entries()) {
    if (each.kind !== 'pictures') continue;
    const at = each.pictures.findIndex((picture) => picture.pictureId === pictureId);
    if (at >= 0) return { row, at };
  }
  return null;
}

/** The picture that a key of direction leads to; the same where it leads out of the list. */
export function stepped(rows: readonly PictureRow[], from: string, key: string): string {
  const all = rows.flatMap((row) => (row.kind === 'pictures' ? row.pictures : []));
  const index = all.findIndex(({ pictureId }) => pictureId === from);
  const place = rowOf(rows, from);
  if (index < 0 || !place) return from;
  if (key === 'Home') return all[0].pictureId;
  if (key === 'End') return all[all.length - 1].pictureId;
  if (key === 'ArrowLeft' || key === 'ArrowRight')
    return (all[index + (key === 'ArrowLeft' ? -1 : 1)] ?? all[index]).pictureId;
  const step = key === 'ArrowUp' ? -1 : 1;
  for (let row = place.row + step; row >= 0 && row < rows.length; row += step) {
    const to = rows[row];
    if (to.kind === 'pictures') return to.pictures[Math.min(place.at, to.pictures.length - 1)].pictureId;
  }
  return from;
}
