import { ofDefiner } from './fence';
import type { Migration } from './migration';

/** A clinic's dates and numbers are written in a language. */
const language = `
alter table clinic add language text not null default 'en-GB';
grant update (language) on clinic to yonder_app;
grant create on schema public to yonder_definer;
drop function caller_of_session(bytea);
create function caller_of_session(token bytea)
returns table (user_id uuid, clinic_id uuid, role text, display_name text, clinic_name text, notation text,
  time_zone text, language text)
language sql stable security definer set search_path = public as $body$
  select u.user_id, u.clinic_id, u.role, u.display_name, c.name, c.notation, c.time_zone, c.language
  from user_session s join user_account u using (user_id) join clinic c on c.clinic_id = u.clinic_id
  where s.token_hash = token and s.expires_at > now() and u.disabled_at is null
$body$;
${ofDefiner('caller_of_session(bytea)')}
revoke create on schema public from yonder_definer;`;

export const languageOfDates: Migration = { name: '0044-language', up: (run) => run(language) };
