/**
 * A UUID of version 7 (RFC 9562): 48 bits of time, then 74 random bits, so that keys sort by when they were made.
 * @param timeMs milliseconds since 1970, 0 to 2^48-1
 * @param random at least ten random bytes
 * @throws RangeError when the time does not fit or there are too few bytes
 */
export function uuid7(timeMs: number, random: Uint8Array): string {
  if (!Number.isInteger(timeMs) || timeMs < 0 || timeMs >= 2 ** 48) {
    throw new RangeError(`timeMs must be a whole number below 2^48, got ${timeMs}`);
  }
  if (random.length < 10) throw new RangeError(`ten random bytes are needed, got ${random.length}`);
  const bytes = new Uint8Array(16);
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(timeMs / 2 ** (8 * (5 - i))) & 0xff;
  bytes.set(random.subarray(0, 10), 6);
  bytes[6] = 0x70 | (bytes[6] & 0x0f);
  bytes[8] = 0x80 | (bytes[8] & 0x3f);
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/**
 * The DICOM UID of a UUID: 2.25 and the UUID as one decimal number (PS3.5 annex B.2).
 * `dicomUid('00000000-0000-7000-8000-000000000001')` is `2.25.` followed by that number.
 */
export function dicomUid(uuid: string): string {
  const hex = uuid.replaceAll('-', '');
  if (!/^[0-9a-f]{32}$/i.test(hex)) throw new RangeError(`not a UUID: ${uuid}`);
  return `2.25.${BigInt(`0x${hex}`)}`;
}

/** The UUID that a UID was made of, the way back from {@link dicomUid}; null for any other UID. */
export function uuidOfUid(uid: string): string | null {
  const number = /^2\.25\.(\d{1,39})$/.exec(uid)?.[1];
  if (!number) return null;
  const hex = BigInt(number).toString(16).padStart(32, '0');
  if (hex.length > 32) return null;
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
}
