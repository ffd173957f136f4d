import { ofDefiner } from './fence';
import type { Migration } from './migration';

/** People can be invited, and be kept out: an account that is disabled signs nobody in, and its sessions are none. */
const staff = `
alter table user_account add disabled_at timestamptz;
alter table user_account add invite_hash bytea unique;
alter table user_account add invite_until timestamptz;
create trigger note_setting after insert or update or delete on user_account
  for each row execute function note_setting('user_id', '{password_hash,invite_hash,invite_until,mail_name,sign_in_name}');
create or replace function account_to_sign_in(wanted text)
returns table (user_id uuid, clinic_id uuid, password_hash text)
language sql stable security definer set search_path = public as $body$
  select user_id, clinic_id, password_hash from user_account where sign_in_name = wanted and disabled_at is null
$body$;
create or replace function caller_of_session(token bytea)
returns table (user_id uuid, clinic_id uuid, role text, display_name text, clinic_name text, notation text, time_zone text)
language sql stable security definer set search_path = public as $body$
  select u.user_id, u.clinic_id, u.role, u.display_name, c.name, c.notation, c.time_zone
  from user_session s join user_account u using (user_id) join clinic c on c.clinic_id = u.clinic_id
  where s.token_hash = token and s.expires_at > now() and u.disabled_at is null
$body$;
create or replace function phone_of_token(token bytea)
returns table (phone_id uuid, clinic_id uuid, user_id uuid, display_name text, time_zone text, paired_until timestamptz)
language sql stable security definer set search_path = public as $body$
  select p.phone_id, p.clinic_id, p.user_id, u.display_name, c.time_zone, p.paired_until
  from phone p join user_account u using (user_id) join clinic c on c.clinic_id = p.clinic_id
  where p.token_hash = token and p.paired_until > now() and u.disabled_at is null
$body$;
grant create on schema public to yonder_definer;
create function account_of_invite(code bytea)
returns table (user_id uuid, clinic_id uuid, sign_in_name text, display_name text)
language sql stable security definer set search_path = public as $body$
  select user_id, clinic_id, sign_in_name, display_name from user_account
  where invite_hash = code and invite_until > now() and disabled_at is null
$body$;
${ofDefiner('account_of_invite(bytea)')}
revoke create on schema public from yonder_definer;`;

export const staffInvited: Migration = { name: '0038-staff', up: (run) => run(staff) };
