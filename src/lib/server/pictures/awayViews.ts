import type { PictureView } from '../../core/picture/pictureView';
import type { Slot } from '../../core/tray/slot';
import type { Tx } from '../database/connection';
import { traysOfVisits } from '../trays/trays';
import type { AwayRow } from './awayQueries';
import { type PictureRow, pictureById } from './queries';
import { viewsOf } from './views';

/** Pictures that are away, each called and turned as where it lay; one that is not there any more is left out. */
export async function viewsAsTheyLay(
  tx: Tx,
  away: readonly AwayRow[],
  viewer: string
): Promise<{ row: AwayRow; picture: PictureView }[]> {
  const there: { row: AwayRow; picture: PictureRow }[] = [];
  for (const row of away) {
    const picture = await pictureById(tx, row.picture_id);
    if (picture) there.push({ row, picture });
  }
  const views = await viewsOf(
    tx,
    there.map(({ picture }) => picture),
    viewer
  );
  const trays = await traysOfVisits(tx, [...new Set(there.map(({ row }) => row.visit_id))]);
  return there.map(({ row }, i) => {
    const tray = trays.find(({ trayId }) => trayId === row.tray_id)?.tray;
    const slot = row.slot_id === null ? null : (tray?.wells[row.slot_id]?.slot ?? null);
    return { row, picture: slot ? asIn(slot, views[i]) : views[i] };
  });
}

const asIn = (slot: Slot, view: PictureView): PictureView => ({
  ...view,
  slot,
  firstOrientation: view.source === 'device' ? slot.orientation : view.firstOrientation
});
