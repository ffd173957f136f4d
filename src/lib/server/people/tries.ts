import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { errorInWords, sequelize } from '../database/connection';
import type { Problem } from '../problem';

/** Counts tries in the records, so that all processes count together. @param points how many are let through */
export const tries = (keyPrefix: string, points: number, minutes: number): RateLimiterPostgres =>
  new RateLimiterPostgres({
    storeClient: sequelize(),
    storeType: 'sequelize',
    tableName: 'sign_in_limit',
    tableCreated: true,
    keyPrefix,
    points,
    duration: minutes * 60,
    clearExpiredByTimeout: false
  });

/** Counts a try before what is tried is looked at, so that those made at one moment count too. @throws full */
export async function countTry(limit: RateLimiterPostgres, key: string, full: Problem): Promise<void> {
  try {
    await limit.consume(key);
  } catch (refused) {
    throw refused instanceof RateLimiterRes ? full : errorInWords(refused);
  }
}
