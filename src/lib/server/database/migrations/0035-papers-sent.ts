import { fenced } from './fence';
import type { Migration } from './migration';

/** Papers go on their way as pictures do; a view tells whose a parcel is, whatever is in it. */
export const papersSent: Migration = {
  name: '0035-papers-sent',
  up: (run) =>
    run(`
create table parcel_paper (
  clinic_id uuid not null references clinic,
  parcel_id uuid not null,
  paper_id uuid not null,
  position int not null,
  primary key (clinic_id, parcel_id, paper_id),
  foreign key (clinic_id, parcel_id) references parcel (clinic_id, parcel_id),
  foreign key (clinic_id, paper_id) references paper (clinic_id, paper_id)
);
create index on parcel_paper (clinic_id, paper_id);
${fenced('parcel_paper', ['select', 'insert'])}
create view parcel_of with (security_invoker = true) as
  select i.clinic_id, i.parcel_id, x.visit_id, x.patient_id
    from parcel_item i join picture x on x.clinic_id = i.clinic_id and x.picture_id = i.picture_id
  union
  select j.clinic_id, j.parcel_id, p.visit_id, v.patient_id
    from parcel_paper j join paper p on p.clinic_id = j.clinic_id and p.paper_id = j.paper_id
    join visit v on v.clinic_id = p.clinic_id and v.visit_id = p.visit_id;
grant select on parcel_of to yonder_app;`)
};
