import type { Tx } from '../database/connection';

/** What happened, for pages and devices that follow it. Sent when the transaction commits, not before. */
export interface News {
  clinicId: string;
  topic: 'visit' | 'picture' | 'device' | 'today' | 'device-command';
  id: string;
  /** Only for device commands. */
  command?: unknown;
}

export const channel = 'yonder_news';

export async function announce(tx: Tx, news: Omit<News, 'clinicId'>): Promise<void> {
  await tx.sql('select pg_notify($1, $2)', channel, JSON.stringify({ ...news, clinicId: tx.clinicId }));
}
