/** Sheets that printers hold, in mm, standing. A4 and A5: ISO 216; Letter: ANSI/ASME Y14.1. */
export const papers = {
  A4: { width: 210, height: 297 },
  A5: { width: 148, height: 210 },
  Letter: { width: 215.9, height: 279.4 }
} as const;
export type SheetName = keyof typeof papers;
export const sheetNames = Object.keys(papers) as [SheetName, ...SheetName[]];

/** Margins of a sheet of words, A4, and what is between them. */
export const wordMarginsMm = { side: 18, top: 16, bottom: 18 };
export const insideMm = papers.A4.width - 2 * wordMarginsMm.side;

export interface SizeMm {
  width: number;
  height: number;
}
/** A rectangle on a sheet, from its left and upper edge, in mm. */
export interface RectMm extends SizeMm {
  left: number;
  top: number;
}

/** No printer that a clinic has prints nearer to the edge of a sheet. */
export const marginMm = 10;
/** What stands over and under the pictures: whose they are, and the ruler. */
export const headMm = 14;
export const footMm = 16;

/** A sheet as it lies. @param lying its longer side across */
export const sheetOf = (paper: SheetName, lying: boolean): SizeMm => {
  const { width, height } = papers[paper];
  return lying ? { width: height, height: width } : { width, height };
};

/** Where pictures can stand on a sheet. */
export const areaOf = (sheet: SizeMm): RectMm => ({
  left: marginMm,
  top: marginMm + headMm,
  width: sheet.width - 2 * marginMm,
  height: sheet.height - 2 * marginMm - headMm - footMm
});
