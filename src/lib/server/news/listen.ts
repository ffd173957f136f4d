import pg from 'pg';
import { databaseUrl } from '../config';
import { type ClinicNews, channel } from './announce';

type Follower = (news: ClinicNews | 'missed-some') => void;

const followers = new Set<Follower>();
let client: pg.Client | null = null;
let stopped = false;
const retryMs = 1000;

/** Follows the clinic's news. After a gap (the database was away) everyone is told that some may have been missed. */
export function follow(follower: Follower): () => void {
  followers.add(follower);
  if (!client && !stopped) void connect(false);
  return () => followers.delete(follower);
}

async function connect(again: boolean): Promise<void> {
  const mine = new pg.Client({ connectionString: databaseUrl(), keepAlive: true });
  client = mine;
  let lost = false;
  const lose = () => {
    if (lost) return;
    lost = true;
    mine.removeAllListeners('notification');
    void mine.end().catch(() => {});
    if (!stopped) setTimeout(() => void connect(true), retryMs).unref();
  };
  mine.on('error', lose);
  mine.on('end', lose);
  mine.on('notification', ({ payload }) => {
    if (!payload) return;
    const news = JSON.parse(payload) as ClinicNews;
    for (const follower of followers) follower(news);
  });
  try {
    await mine.connect();
    await mine.query(`listen ${channel}`);
    if (again) for (const follower of followers) follower('missed-some');
  } catch {
    lose();
  }
}

export async function stopListening(): Promise<void> {
  stopped = true;
  await client?.end().catch(() => {});
}
