type Verb = 'select' | 'insert' | 'update' | 'delete';

const ownClinic = `clinic_id = nullif(current_setting('yonder.clinic_id', true), '')::uuid`;

/**
 * Puts a new table behind the fence: the services' role sees and writes only rows of the clinic that its transaction is
 * set to, and may only do what is named.
 */
export const fenced = (
  table: string,
  verbs: readonly Verb[] = ['select', 'insert', 'update', 'delete']
): string => `
alter table ${table} enable row level security;
create policy own_clinic on ${table} using (${ownClinic}) with check (${ownClinic});
grant ${verbs.join(', ')} on ${table} to yonder_app;`;

/** What the role that owns functions may do on a table, whichever clinic: exactly what its functions need. */
export const forDefiner = (table: string, verbs: readonly Verb[]): string =>
  verbs
    .map(
      (verb) => `
create policy definer_${verb} on ${table} for ${verb} to yonder_definer ${
        verb === 'insert'
          ? 'with check (true)'
          : verb === 'update'
            ? 'using (true) with check (true)'
            : 'using (true)'
      };
grant ${verb} on ${table} to yonder_definer;`
    )
    .join('');

/** A function that may look past the fence belongs to a role that is no superuser and can't sign in. */
export const ofDefiner = (signature: string): string => `
alter function ${signature} owner to yonder_definer;
revoke execute on function ${signature} from public;
grant execute on function ${signature} to yonder_app;`;
