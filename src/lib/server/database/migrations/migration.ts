export type Run = (sql: string) => Promise<void>;

/** One step forward of the tables. Runs as their owner, in one transaction together with the line that it ran. */
export interface Migration {
  name: string;
  up(run: Run): Promise<void>;
}
