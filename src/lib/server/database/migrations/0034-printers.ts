import { fenced } from './fence';
import type { Migration } from './migration';

/** How true the clinic's printers print. */
export const printersMeasured: Migration = {
  name: '0034-printers',
  up: (run) =>
    run(`
create table printer (
  clinic_id uuid not null references clinic,
  printer_id uuid not null,
  name text not null,
  across_mm double precision not null check (across_mm between 90 and 110),
  down_mm double precision not null check (down_mm between 90 and 110),
  primary key (clinic_id, printer_id),
  unique (clinic_id, name)
);
${fenced('printer')}`)
};
