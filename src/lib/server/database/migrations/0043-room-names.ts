import type { Migration } from './migration';

/** No two rooms in use are called the same, whatever brings one back; those that are get their place behind their name. */
const names = `
update room r set name = r.name || ' ' || r.place where r.closed_at is null and exists (
  select 1 from room o where o.clinic_id = r.clinic_id and o.closed_at is null and lower(o.name) = lower(r.name)
    and (o.place, o.room_id) < (r.place, r.room_id));
create unique index on room (clinic_id, lower(name)) where closed_at is null;`;

export const roomNames: Migration = { name: '0043-room-names', up: (run) => run(names) };
