import { createHash, randomBytes, randomInt } from 'node:crypto';
import { dicomUid, uuid7 } from '../core/identity/uuid7';

/** What is counted up within a millisecond: the last seven bytes. */
const countedFrom = 3;

/**
 * Makes keys that sort after all that it made before: within a millisecond, or while the clock is put back, by counting
 * up by a random step (RFC 9562, 6.2, method 2).
 */
export function keyMaker(): () => string {
  let [ms, random] = [0, randomBytes(10)];
  return () => {
    const now = Date.now();
    const count = BigInt(`0x${random.toString('hex', countedFrom)}`) + BigInt(randomInt(1, 2 ** 32));
    const hex = count.toString(16).padStart(14, '0');
    if (now > ms || hex.length > 14) [ms, random] = [Math.max(now, ms + 1), randomBytes(10)];
    else random.write(hex, countedFrom, 'hex');
    return uuid7(ms, random);
  };
}

/** A key that sorts after every one that this process made before. */
export const newId = keyMaker();
export const newUid = (): string => dicomUid(newId());
export const sha256 = (bytes: Uint8Array | string): Buffer => createHash('sha256').update(bytes).digest();
export const newToken = (): string => randomBytes(32).toString('base64url');
