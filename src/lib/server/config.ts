/** What the process was started with. Read when first needed, so that tests can set it. */
export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start with ./yonder start');
  return url;
}

/** Whether this is the demo clinic: then the page may press the simulated sensor's button. */
export const isDemo = (): boolean => process.env.YONDER_DEMO === '1';
