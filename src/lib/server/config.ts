import path from 'node:path';

/** What the process was started with. Read when first needed, so that tests can set it. */
export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start with ./yonder start');
  return url;
}

/** The same database as the queue's own role, which may do nothing outside the queue. */
export function queueDatabaseUrl(): string {
  const url = process.env.QUEUE_DATABASE_URL;
  if (!url) throw new Error('QUEUE_DATABASE_URL is not set: start with ./yonder start');
  return url;
}

/** Whether this is the demo clinic: then the page may press the simulated sensor's button. */
export const isDemo = (): boolean => process.env.YONDER_DEMO === '1';

/** Whether pages are shown that only those who build this look at. */
export const showsKit = (): boolean =>
  process.env.YONDER_KIT === '1' || process.env.NODE_ENV !== 'production';

/**
 * The folder in which originals land before they are moved into the records; null when they go there at once
 * (YONDER_LANDING=off), as several machines without a shared disk need it.
 */
export function landingFolder(): string | null {
  const asked = process.env.YONDER_LANDING ?? '.data/landing';
  return asked === 'off' ? null : path.resolve(asked);
}

/** Where the newest line of the audit is noted outside the records (`./yonder audit-head`). */
export const auditAnchorFile = (): string =>
  path.resolve(process.env.YONDER_AUDIT_HEADS ?? '.data/audit-heads.txt');
