import { forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/**
 * What a patient is found by, folded: names, number, owner, species and birth date, each word after a space, so that a
 * word's beginning can be looked up. Searched by trigrams, which a fence of rows would keep from being used: so a
 * function of the definer looks, in one clinic only.
 */
const search = `
create extension if not exists pg_trgm;
create extension if not exists unaccent;
alter table patient add breed text, add national_number text not null default '', add search text not null default '';
create function patient_search(p patient) returns text language sql stable set search_path = public as $body$
  select ' ' || trim(regexp_replace(lower(unaccent(concat_ws(' ', p.given_name, p.family_name, p.owner, p.species, p.breed))),
      '[^[:alnum:]]+', ' ', 'g')) || ' ' ||
    regexp_replace(lower(p.record_number), '[^[:alnum:]]', '', 'g') || ' ' ||
    trim(regexp_replace(lower(p.record_number), '[^[:alnum:]]+', ' ', 'g')) || ' ' ||
    regexp_replace(lower(p.national_number), '[^[:alnum:]]', '', 'g') || ' ' ||
    coalesce(to_char(p.birth_date, 'YYYY-MM-DD'), '') || ' '
$body$;
create function note_patient_search() returns trigger language plpgsql set search_path = public as $body$
begin
  new.search := patient_search(new);
  return new;
end $body$;
create trigger note_search before insert or update on patient for each row execute function note_patient_search();
update patient set given_name = given_name;
alter table patient drop constraint patient_clinic_id_record_number_key;
create unique index patient_number on patient (clinic_id, record_number) where record_number <> '';
create index patient_by_words on patient using gin (search gin_trgm_ops);`;

/**
 * Patients of a clinic who have, for every part that was typed, a word that begins as one of its forms. Each part is a
 * list of patterns for like. So many at most; who fits best is told elsewhere.
 */
const finding = `
create function find_patients(clinic uuid, parts jsonb, most int) returns setof patient
language plpgsql stable security definer set search_path = public as $body$
declare
  conditions text;
begin
  if clinic <> nullif(current_setting('yonder.clinic_id', true), '')::uuid then
    raise exception 'another clinic' using errcode = '42501';
  end if;
  select string_agg('(' || (
      select string_agg(format('search like %L', '% ' || replace(replace(replace(form, '\\', '\\\\'), '%', '\\%'), '_', '\\_') || '%'), ' or ')
      from jsonb_array_elements_text(part) form) || ')', ' and ')
    into conditions from jsonb_array_elements(parts) part;
  return query execute format('select * from patient where clinic_id = %L and %s limit %s', clinic,
    coalesce(conditions, 'false'), most);
end $body$;
${forDefiner('patient', ['select'])}
grant create on schema public to yonder_definer;
${ofDefiner('find_patients(uuid, jsonb, int)')}
revoke create on schema public from yonder_definer;`;

export const people: Migration = {
  name: '0009-people',
  up: async (run) => {
    await run(search);
    await run(finding);
  }
};
