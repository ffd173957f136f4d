import type { SlotShape } from '../tray/slot';
import { captionPx, layClose } from '../tray/layout';
import { type RectMm, type SizeMm, areaOf } from './paper';
import { tilesOf } from './tiles';

/** A picture, or a part of it, at its place on a sheet. */
export interface Placed {
  key: string;
  at: RectMm;
  /** Shares of the picture as it is seen, from its left and upper edge; all of it is 0, 0, 1, 1. */
  part: { left: number; top: number; width: number; height: number };
  /** Where its words stand; null where there are none. */
  caption: RectMm | null;
}

export interface PrintSheet {
  placed: Placed[];
  /** "2 of 6, row 1, column 2" for one of several sheets of one picture. */
  tile: string;
  /** Corners of what is to be laid over its neighbours; none where all of a picture stands on it. */
  marks: { x: number; y: number }[];
}

const whole = { left: 0, top: 0, width: 1, height: 1 };
export const captionMm = 9;
const gapMm = 4;

/** Pictures true to scale: each in the middle of its own sheet, or on as many as it takes. @throws RangeError as {@link tilesOf} */
export function trueSheets(
  pictures: readonly { key: string; size: SizeMm }[],
  sheet: SizeMm,
  captions: boolean
): PrintSheet[] {
  const all = areaOf(sheet);
  const area = { ...all, height: all.height - (captions ? captionMm : 0) };
  return pictures.flatMap(({ key, size }) => {
    const tiles = tilesOf(size, area);
    return tiles.map(({ row, column, part }, i): PrintSheet => {
      const at = {
        left: area.left + (area.width - part.width) / 2,
        top: area.top + (area.height - part.height) / 2,
        width: part.width,
        height: part.height
      };
      const corners = [at.left, at.left + at.width].flatMap((x) =>
        [at.top, at.top + at.height].map((y) => ({ x, y }))
      );
      return {
        placed: [
          {
            key,
            at,
            part: {
              left: part.left / size.width,
              top: part.top / size.height,
              width: part.width / size.width,
              height: part.height / size.height
            },
            caption: captions
              ? { left: area.left, top: at.top + at.height + 1, width: area.width, height: captionMm }
              : null
          }
        ],
        tile: tiles.length > 1 ? `${i + 1} of ${tiles.length}, row ${row + 1}, column ${column + 1}` : '',
        marks: tiles.length > 1 ? corners : []
      };
    });
  });
}

/** Room for one picture in rows, with its words. */
export function gridCell(sheet: SizeMm, { across, down }: { across: number; down: number }): SizeMm {
  const area = areaOf(sheet);
  return {
    width: (area.width - gapMm * (across - 1)) / across,
    height: (area.height - gapMm * (down - 1)) / down
  };
}

/** Pictures in rows, each as large as its place allows, with its own proportions. @param pictures sizes in any unit */
export function gridSheets(
  pictures: readonly { key: string; size: SizeMm }[],
  sheet: SizeMm,
  {
    across,
    down,
    captions,
    captionHighMm = captionMm
  }: { across: number; down: number; captions: boolean; captionHighMm?: number }
): PrintSheet[] {
  const area = areaOf(sheet);
  const cell = gridCell(sheet, { across, down });
  const each = across * down;
  return Array.from({ length: Math.ceil(pictures.length / each) }, (_, page) => ({
    tile: '',
    marks: [],
    placed: pictures.slice(page * each, (page + 1) * each).map(({ key, size }, i) =>
      inFrame(
        key,
        size,
        {
          left: area.left + (i % across) * (cell.width + gapMm),
          top: area.top + Math.floor(i / across) * (cell.height + gapMm),
          ...cell
        },
        captions ? captionHighMm : 0
      )
    )
  }));
}

/** A tray is laid on a screen of so many pixels a millimetre of paper: its gaps are made for screens. */
const pxPerMm = 4;

/** Pictures as they lie on their tray, on one sheet. */
export function traySheet(
  pictures: readonly {
    key: string;
    size: SizeMm;
    slot: { at: { x: number; y: number }; shape: SlotShape };
  }[],
  sheet: SizeMm,
  captions: boolean
): PrintSheet {
  const area = areaOf(sheet);
  const frames = layClose(
    pictures.map(({ slot }) => slot),
    { width: area.width * pxPerMm, height: area.height * pxPerMm },
    area.width * pxPerMm
  );
  return {
    tile: '',
    marks: [],
    placed: pictures.map(({ key, size }, i) => {
      const { left, top, width, height } = frames[i];
      const at = {
        left: area.left + left / pxPerMm,
        top: area.top + top / pxPerMm,
        width: width / pxPerMm,
        height: height / pxPerMm
      };
      // The frame has room for a caption of a screen's size.
      return inFrame(
        key,
        size,
        captions ? at : { ...at, height: (height - captionPx) / pxPerMm },
        captions ? captionMm : 0
      );
    })
  };
}

function inFrame(key: string, size: SizeMm, frame: RectMm, captionHighMm: number): Placed {
  const room = captionHighMm > 0 ? Math.max(frame.height - captionHighMm, frame.height / 2) : frame.height;
  const by = Math.min(frame.width / size.width, room / size.height);
  const [width, height] = [size.width * by, size.height * by];
  const at = {
    left: frame.left + (frame.width - width) / 2,
    top: frame.top + (room - height) / 2,
    width,
    height
  };
  const under = at.top + height + 0.8;
  return {
    key,
    at,
    part: whole,
    caption:
      captionHighMm > 0 ? { left: frame.left, top: under, width: frame.width, height: captionHighMm } : null
  };
}
