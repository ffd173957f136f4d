import { createHash, randomBytes } from 'node:crypto';
import { dicomUid, uuid7 } from '../core/identity/uuid7';

export const newId = (): string => uuid7(Date.now(), randomBytes(10));
export const newUid = (): string => dicomUid(newId());
export const sha256 = (bytes: Uint8Array | string): Buffer => createHash('sha256').update(bytes).digest();
export const newToken = (): string => randomBytes(32).toString('base64url');
