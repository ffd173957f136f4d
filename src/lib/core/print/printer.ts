import { z } from 'zod';
import type { SizeMm } from './paper';

/** The ruler that is printed on every sheet that is true to scale. */
export const rulerMm = 100;
/** A small sheet has a shorter one. */
export const shortRulerMm = 50;

/** How long the ruler came out on a printer, across the sheet and along it, in mm. */
export const printerSchema = z.strictObject({
  name: z.string().trim().min(1, 'Give the printer a name.').max(60),
  acrossMm: z.number().min(90, 'A ruler of 100 mm can’t come out shorter than 90.').max(110),
  downMm: z.number().min(90, 'A ruler of 100 mm can’t come out shorter than 90.').max(110)
});
export type PrinterMeasured = z.infer<typeof printerSchema>;
export type PrinterView = PrinterMeasured & { printerId: string };

/** What has to be asked of a printer so that it prints true: `{ width: 1.01, height: 1 }` for one that prints 1 % short across. */
export const correctionOf = (printer: Pick<PrinterMeasured, 'acrossMm' | 'downMm'> | null): SizeMm =>
  printer ? { width: 100 / printer.acrossMm, height: 100 / printer.downMm } : { width: 1, height: 1 };
