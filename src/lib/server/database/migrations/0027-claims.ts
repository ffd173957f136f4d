import type { Migration } from './migration';

/** Pictures that are sent for a claim: what is told of each, and the number that the office answers with. */
const claims = `
alter table destination drop constraint destination_kind_check;
alter table destination add constraint destination_kind_check
  check (kind in ('dicomweb', 'dimse', 'folder', 'mail', 'claims'));
alter table parcel_item add told jsonb;
alter table delivery add tracking text not null default '';
-- When whoever is told of what arrives at the destination was to be told of this parcel.
alter table parcel add told_at timestamptz;
create index on delivery (clinic_id, lower(tracking)) where tracking <> '';`;

export const claimsOffice: Migration = { name: '0027-claims', up: (run) => run(claims) };
