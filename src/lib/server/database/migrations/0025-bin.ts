import { fenced, forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/**
 * A picture can be away from its chart: in the bin, on the sorting desk again, or removed for good. Of a removed one its
 * row stays, empty, so that what was told of it (deliveries, the audit, the key it came with) still names something.
 */
const away = `
alter table picture add away text check (away in ('bin', 'arrivals', 'removed'));
alter table picture alter original_sha256 drop not null;
alter table picture add check (original_sha256 is not null or away = 'removed');
grant update (away) on picture to yonder_app;
create index on picture (clinic_id, away) where away is not null;
create table picture_away (
  clinic_id uuid not null references clinic,
  away_id uuid not null,
  picture_id uuid not null,
  went_to text not null check (went_to in ('bin', 'arrivals')),
  -- Where it was.
  patient_id uuid not null,
  visit_id uuid not null,
  tray_id uuid,
  slot_id text,
  taken_by uuid not null,
  at timestamptz not null default now(),
  reason text not null,
  back_at timestamptz,
  back_by uuid,
  removed_at timestamptz,
  primary key (clinic_id, away_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, patient_id) references patient (clinic_id, patient_id),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id),
  foreign key (clinic_id, taken_by) references user_account (clinic_id, user_id),
  foreign key (clinic_id, back_by) references user_account (clinic_id, user_id)
);
create unique index on picture_away (clinic_id, picture_id) where back_at is null and removed_at is null;
create index on picture_away (clinic_id, patient_id, at desc);
${fenced('picture_away', ['select', 'insert'])}
grant update (back_at, back_by) on picture_away to yonder_app;
alter table clinic add bin_days int not null default 90 check (bin_days between 7 and 3650);
grant update (bin_days) on clinic to yonder_app;
alter table arrival add picture_id uuid;
alter table arrival add foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id);
alter table arrival drop constraint arrival_source_check;
alter table arrival add constraint arrival_source_check
  check (source in ('device', 'folder', 'phone', 'drop', 'disc', 'mail', 'network', 'chart'));`;

/** Whether a picture shows exactly what somebody linked it to, even nothing; else what its slot is for. */
const placed = `
alter table picture add placed boolean not null default false;
update picture p set placed = true where exists (
  select 1 from picture_place l where l.clinic_id = p.clinic_id and l.picture_id = p.picture_id);
grant update (placed) on picture to yonder_app;`;

/**
 * Which places each picture of a chart shows, with what is searched by beside it: a cache that follows from links, slots
 * and pictures by itself, so that no search looks at more rows than it finds.
 */
const found = `
create table picture_at (
  clinic_id uuid not null,
  place_key text not null,
  picture_id uuid not null,
  patient_id uuid not null,
  kind text not null,
  taken_at timestamptz not null,
  primary key (clinic_id, picture_id, place_key)
);
create index on picture_at (clinic_id, place_key, kind, taken_at desc, picture_id desc);
create index on picture_at (clinic_id, place_key, taken_at desc, picture_id desc);
create index on picture_at (clinic_id, patient_id, place_key, taken_at desc, picture_id desc);
${fenced('picture_at', ['select', 'insert', 'delete'])}
create index on picture (clinic_id, kind, taken_at desc, picture_id desc) where away is null;
create index on picture (clinic_id, taken_at desc, picture_id desc) where away is null;
create function note_places(picture uuid) returns void language sql as $body$
  delete from picture_at a where a.picture_id = picture;
  insert into picture_at (clinic_id, place_key, picture_id, patient_id, kind, taken_at)
    select p.clinic_id, shown.key, p.picture_id, p.patient_id, p.kind, p.taken_at
    from picture p cross join lateral (
      select l.place_key as key from picture_place l
        where p.placed and l.clinic_id = p.clinic_id and l.picture_id = p.picture_id
      union select unnest(s.place_keys) from standing s
        where not p.placed and s.keeper and s.clinic_id = p.clinic_id and s.picture_id = p.picture_id) shown
    where p.picture_id = picture and p.away is null;
$body$;
create function places_changed() returns trigger language plpgsql as $body$
begin
  perform note_places(coalesce(new.picture_id, old.picture_id));
  return null;
end $body$;
create trigger places_changed after insert or delete on picture_place
  for each row execute function places_changed();
create trigger places_changed after insert or delete or update of keeper, place_keys on standing
  for each row execute function places_changed();
create trigger places_changed after update of away, placed, kind, taken_at, patient_id on picture
  for each row execute function places_changed();
select note_places(picture_id) from picture;`;

/** A chart's pictures are filed under names of the clinic's own, by hand or by a rule. */
const categories = `
create table category (
  clinic_id uuid not null references clinic,
  category_id uuid not null,
  name text not null check (name <> ''),
  -- What is filed under it by itself; null where only people file.
  rule jsonb,
  place int not null default 0,
  dropped_at timestamptz,
  primary key (clinic_id, category_id)
);
create unique index on category (clinic_id, lower(name)) where dropped_at is null;
${fenced('category', ['select', 'insert', 'update'])}
create table picture_category (
  clinic_id uuid not null,
  picture_id uuid not null,
  category_id uuid not null,
  -- A person has said so, or has said that it is not so; a rule leaves alone what a person said.
  filed boolean not null,
  -- Null where a rule did it.
  filed_by uuid,
  at timestamptz not null default now(),
  primary key (clinic_id, picture_id, category_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, category_id) references category (clinic_id, category_id),
  foreign key (clinic_id, filed_by) references user_account (clinic_id, user_id)
);
create index on picture_category (clinic_id, category_id);
${fenced('picture_category')}`;

/**
 * What a chart's list shows and is searched by: who took or brought a picture in, and what people have called and graded
 * it (a cache that follows from its steps; null where none says anything).
 */
const listed = `
alter table picture add by_name text not null default '';
alter table picture add told jsonb;
grant update (by_name, told) on picture to yonder_app;
update picture p set by_name = l.who from audit_line l
  where l.clinic_id = p.clinic_id and l.subject = p.picture_id::text and l.act in ('file brought in', 'arrival given');
update picture p set by_name = operator.name from (
  select distinct on (s.picture_id) s.picture_id, u.display_name as name from standing s
  join picture q on q.picture_id = s.picture_id and q.source = 'device'
  join arming a on a.clinic_id = s.clinic_id and a.tray_id = s.tray_id and a.slot_id = s.slot_id and a.made_at <= q.stored_at
  join user_account u on u.user_id = a.user_id order by s.picture_id, a.made_at desc) operator
  where operator.picture_id = p.picture_id;`;

/**
 * What lay in the bin for its days is removed for good, with all that was made on it, and its bytes where nothing else
 * has the same. So is what came from a chart and was put away on the desk.
 */
const removing = `
${forDefiner('picture', ['update'])}
${forDefiner('picture_away', ['select', 'update'])}
${[
  'picture_level',
  'picture_preview',
  'picture_step',
  'picture_place',
  'picture_advice',
  'advice_denied',
  'lettering_checked',
  'standing',
  'picture_category'
]
  .map((table) => forDefiner(table, ['select', 'delete']))
  .join('')}
${forDefiner('picture_at', ['select', 'insert', 'delete'])}
grant create on schema public to yonder_definer;
create function remove_picture(clinic uuid, picture uuid) returns void
language plpgsql security definer set search_path = public as $body$
declare
  digest bytea;
begin
  select original_sha256 into digest from picture p where p.clinic_id = clinic and p.picture_id = picture;
  delete from picture_level e where e.clinic_id = clinic and e.picture_id = picture;
  delete from picture_preview e where e.clinic_id = clinic and e.picture_id = picture;
  delete from picture_step e where e.clinic_id = clinic and e.picture_id = picture;
  delete from picture_place e where e.clinic_id = clinic and e.picture_id = picture;
  delete from picture_advice e where e.clinic_id = clinic and e.picture_id = picture;
  delete from advice_denied e where e.clinic_id = clinic and e.picture_id = picture;
  delete from lettering_checked e where e.clinic_id = clinic and e.picture_id = picture;
  delete from standing e where e.clinic_id = clinic and e.picture_id = picture;
  delete from picture_category e where e.clinic_id = clinic and e.picture_id = picture;
  update picture p set away = 'removed', original_sha256 = null, file_name = '', facts = '{}', first_look = '{}', told = null
    where p.clinic_id = clinic and p.picture_id = picture;
  update picture_away a set removed_at = now()
    where a.clinic_id = clinic and a.picture_id = picture and a.back_at is null and a.removed_at is null;
  begin
    delete from blob_part b where b.clinic_id = clinic and b.sha256 = digest;
    delete from blob b where b.clinic_id = clinic and b.sha256 = digest and b.place = 'kept';
  exception when foreign_key_violation then
    -- Another picture, a paper or an arrival has the same bytes: they stay.
    null;
  end;
end $body$;
create function empty_bins(clinic uuid)
returns table (picture_id uuid, patient_id uuid, kind text, source text, taken_at timestamptz)
language plpgsql security definer set search_path = public as $body$
declare
  gone record;
begin
  for gone in
    select p.picture_id, p.patient_id, p.kind, p.source, p.taken_at
    from picture_away a join picture p on p.clinic_id = a.clinic_id and p.picture_id = a.picture_id
    join clinic c on c.clinic_id = a.clinic_id
    where a.clinic_id = clinic and a.back_at is null and a.removed_at is null and p.away = 'bin'
      and a.at < now() - make_interval(days => c.bin_days)
    order by a.at limit 500
  loop
    perform remove_picture(clinic, gone.picture_id);
    picture_id := gone.picture_id;
    patient_id := gone.patient_id;
    kind := gone.kind;
    source := gone.source;
    taken_at := gone.taken_at;
    return next;
  end loop;
end $body$;
create or replace function forget_arrivals(clinic uuid, days integer) returns table (arrival_id uuid, from_name text)
language plpgsql security definer set search_path = public as $body$
declare
  gone record;
begin
  for gone in
    select a.arrival_id, a.from_name, a.original_sha256, a.picture_id from arrival a
    where a.clinic_id = clinic and a.given_to is null and a.source not in ('device', 'folder')
      and not exists (select 1 from picture p where p.picture_id = a.picture_id and p.source = 'device')
      and (a.put_away_at < now() - make_interval(days => days) or exists (select 1 from arrival w
        where w.arrival_id = a.part_of and w.given_to is null and w.put_away_at < now() - make_interval(days => days)))
    order by a.part_of nulls last limit 500
  loop
    delete from arrival d where d.arrival_id = gone.arrival_id;
    if gone.picture_id is not null then
      perform remove_picture(clinic, gone.picture_id);
    else
      begin
        delete from blob_part b where b.clinic_id = clinic and b.sha256 = gone.original_sha256;
        delete from blob b where b.clinic_id = clinic and b.sha256 = gone.original_sha256 and b.place = 'kept';
      exception when foreign_key_violation then
        -- Somebody's picture, paper or another arrival has the same bytes: they stay.
        null;
      end;
    end if;
    arrival_id := gone.arrival_id;
    from_name := gone.from_name;
    return next;
  end loop;
end $body$;
${ofDefiner('remove_picture(uuid, uuid)')}
revoke execute on function remove_picture(uuid, uuid) from yonder_app;
${ofDefiner('empty_bins(uuid)')}
revoke create on schema public from yonder_definer;`;

export const binAndCategories: Migration = {
  name: '0025-bin',
  up: async (run) => {
    await run(away);
    await run(placed);
    await run(found);
    await run(listed);
    await run(categories);
    await run(removing);
  }
};
