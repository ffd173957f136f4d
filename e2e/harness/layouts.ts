import { type PrintLayout, usualHead } from '../../src/lib/core/print/printLayout';

/** A layout of sheets as it begins. */
export const plainLayout = (name: string, more: Partial<PrintLayout> = {}): PrintLayout => ({
  name,
  way: 'grid',
  across: 2,
  down: 2,
  paper: 'A4',
  lying: false,
  captions: true,
  drawn: false,
  inkSaving: false,
  ...usualHead('A4', false),
  ...more
});
