import type { News as PageNews } from '../../core/visit/news';
import type { Tx } from '../database/connection';

/** What is told when the transaction commits, not before: to pages, or to a device itself. */
export type News =
  | PageNews
  | { topic: 'device-command'; deviceId: string; command: { kind: string } }
  /** Streams that were opened with this session, or with an older token of this device, end. */
  | { topic: 'session-over'; session: string }
  | { topic: 'device-over'; deviceId: string };

/** What is for the server alone. */
export const isInside = ({ topic }: News): boolean =>
  topic === 'device-command' || topic === 'session-over' || topic === 'device-over';

export type ClinicNews = News & { clinicId: string };

export const channel = 'yonder_news';

/** What PostgreSQL carries in one notification, with some to spare for the channel and the escapes. */
const mostBytes = 7_000;

/** The news as they are sent: without what goes along when that is too large. */
export function packed(news: News, clinicId: string): string {
  const whole = JSON.stringify({ ...news, clinicId });
  if (Buffer.byteLength(whole) <= mostBytes) return whole;
  if (news.topic === 'tray') return JSON.stringify({ ...news, events: null, clinicId });
  if (news.topic === 'picture') return JSON.stringify({ ...news, view: null, clinicId });
  throw new RangeError(`news of ${news.topic} are too large to be told`);
}

export async function announce(tx: Tx, ...all: News[]): Promise<void> {
  if (all.length === 0) return;
  await tx.sql(
    'select pg_notify($1, each) from unnest($2::text[]) each',
    channel,
    all.map((news) => packed(news, tx.clinicId))
  );
}
