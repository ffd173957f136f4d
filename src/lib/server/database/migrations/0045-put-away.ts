import type { Migration } from './migration';

/** A clinic says for how long what it put away on the sorting desk can be brought back. */
const putAway = `
alter table clinic add put_away_days int not null default 30 check (put_away_days between 7 and 3650);
grant update (put_away_days) on clinic to yonder_app;`;

export const putAwayKept: Migration = { name: '0045-put-away', up: (run) => run(putAway) };
