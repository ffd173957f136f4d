import { createHash, randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';

export interface SpooledExposure {
  key: string;
  description: Record<string, unknown>;
  /** SHA-256 of the samples, base64, worked out when they were spooled. */
  digest: string;
  samples: Buffer;
}

/**
 * What a device has exposed and nobody has acknowledged yet, on its own disk. An exposure is written and synced here
 * before anything else is done with it, and leaves only when the server has acknowledged it.
 */
export class Spool {
  constructor(private readonly folder: string) {
    fs.mkdirSync(folder, { recursive: true });
  }

  add(description: Record<string, unknown>, samples: Uint8Array): string {
    const key = randomUUID();
    const digest = createHash('sha256').update(samples).digest('base64');
    const text = Buffer.from(JSON.stringify({ description, digest }));
    const length = Buffer.alloc(4);
    length.writeUInt32LE(text.length);
    const target = path.join(this.folder, `${String(Date.now()).padStart(15, '0')}-${key}.exposure`);
    const file = fs.openSync(`${target}.part`, 'w');
    fs.writeSync(file, Buffer.concat([length, text, samples]));
    fs.fsyncSync(file);
    fs.closeSync(file);
    fs.renameSync(`${target}.part`, target);
    return key;
  }

  private names(): string[] {
    return fs
      .readdirSync(this.folder)
      .filter((name) => name.endsWith('.exposure'))
      .sort();
  }

  count(): number {
    return this.names().length;
  }

  /** The oldest unacknowledged exposure. */
  next(): SpooledExposure | null {
    const [name] = this.names();
    if (!name) return null;
    const whole = fs.readFileSync(path.join(this.folder, name));
    const length = whole.readUInt32LE(0);
    return {
      key: name.slice(16, -'.exposure'.length),
      ...(JSON.parse(whole.subarray(4, 4 + length).toString()) as Pick<
        SpooledExposure,
        'description' | 'digest'
      >),
      samples: whole.subarray(4 + length)
    };
  }

  remove(key: string): void {
    for (const name of this.names()) if (name.includes(key)) fs.rmSync(path.join(this.folder, name));
  }
}

/** Offers one exposure once. True when it was acknowledged; false when it has to be offered again. */
export async function offer(
  server: string,
  token: string,
  exposure: SpooledExposure
): Promise<{ acknowledged: boolean; status: number; says: string }> {
  try {
    const answer = await fetch(`${server}/device/v1/exposures`, {
      method: 'POST',
      headers: {
        authorization: `Bearer ${token}`,
        'content-type': 'application/octet-stream',
        'idempotency-key': exposure.key,
        'yonder-exposure': Buffer.from(JSON.stringify(exposure.description)).toString('base64url'),
        'content-digest': `sha-256=:${exposure.digest}:`
      },
      body: new Uint8Array(exposure.samples),
      signal: AbortSignal.timeout(30_000)
    });
    const said = (await answer.json().catch(() => ({}))) as { pictureId?: string; sentence?: string };
    return {
      acknowledged: answer.status === 200 && said.pictureId !== undefined,
      status: answer.status,
      says: said.sentence ?? ''
    };
  } catch (error) {
    return { acknowledged: false, status: 0, says: String(error) };
  }
}
