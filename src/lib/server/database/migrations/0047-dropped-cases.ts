import { forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/**
 * The bytes of a teaching case that was taken off the shelf are removed for good when a deleted picture's would be, but
 * for those that something else has too. Its number and its words stay.
 */
const removing = `
${forDefiner('teaching_case', ['select'])}
${forDefiner('case_entry', ['select'])}
${forDefiner('case_file', ['select', 'delete'])}
grant create on schema public to yonder_definer;
create function forget_cases(clinic uuid) returns integer
language plpgsql security definer set search_path = public as $body$
declare
  gone record;
  files integer := 0;
begin
  for gone in
    select f.file_id, f.sha256 from case_file f
    join case_entry e on e.clinic_id = f.clinic_id and e.entry_id = f.entry_id
    join teaching_case t on t.clinic_id = e.clinic_id and t.case_id = e.case_id
    join clinic c on c.clinic_id = t.clinic_id
    where f.clinic_id = clinic and t.dropped_at < now() - make_interval(days => c.bin_days)
    order by f.file_id limit 500
  loop
    delete from case_file f where f.clinic_id = clinic and f.file_id = gone.file_id;
    files := files + 1;
    begin
      delete from blob_part b where b.clinic_id = clinic and b.sha256 = gone.sha256;
      delete from blob b where b.clinic_id = clinic and b.sha256 = gone.sha256 and b.place = 'kept';
    exception when foreign_key_violation then
      -- A picture, a paper or another case has the same bytes: they stay.
      null;
    end;
  end loop;
  return files;
end $body$;
${ofDefiner('forget_cases(uuid)')}
revoke create on schema public from yonder_definer;`;

export const droppedCases: Migration = { name: '0047-dropped-cases', up: (run) => run(removing) };
