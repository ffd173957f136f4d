import type { Tx } from '../database/connection';
import { Problem } from '../problem';

/** Keys that pages make for what they ask: the same one however often it is asked. */
export const actKey = /^[\w-]{8,100}$/;

/**
 * Does something once, however often it is asked with one key: the second time gives the first one's answer. Two that
 * ask at the same moment wait for one another. What was refused leaves no trace, so it can be asked again.
 */
export async function once<T extends object>(
  tx: Tx,
  userId: string,
  key: string,
  act: () => Promise<T>
): Promise<T> {
  if (!actKey.test(key)) {
    throw new Problem('no-key', 'This was asked without a usable key.', 'Load the page again.', 400);
  }
  const first = await tx.one(
    `insert into done_act (clinic_id, key, user_id, answer) values ($1, $2, $3, '{}') on conflict do nothing returning key`,
    tx.clinicId,
    key,
    userId
  );
  if (!first) {
    const done = await tx.one<{ user_id: string; answer: T }>(
      'select user_id, answer from done_act where clinic_id = $1 and key = $2',
      tx.clinicId,
      key
    );
    if (done!.user_id !== userId) {
      throw new Problem(
        'no-key',
        'Somebody else has asked something with this key.',
        'Load the page again.',
        409
      );
    }
    return done!.answer;
  }
  const answer = await act();
  await tx.sql(
    'update done_act set answer = $3::jsonb where clinic_id = $1 and key = $2',
    tx.clinicId,
    key,
    JSON.stringify(answer)
  );
  return answer;
}
