import { fenced } from './fence';
import type { Migration } from './migration';

/** How the clinic lays out sheets of pictures. */
const layouts = `
create table print_layout (
  clinic_id uuid not null references clinic,
  layout_id uuid not null,
  name text not null check (name <> ''),
  version int not null,
  body jsonb not null,
  dropped_at timestamptz,
  primary key (clinic_id, layout_id)
);
create unique index on print_layout (clinic_id, lower(name)) where dropped_at is null;
${fenced('print_layout', ['select', 'insert', 'update'])}
create trigger note_setting after insert or update on print_layout
  for each row execute function note_setting('layout_id', '{}');`;

export const printLayouts: Migration = { name: '0042-layouts', up: (run) => run(layouts) };
