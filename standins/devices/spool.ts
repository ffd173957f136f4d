import { createHash, randomUUID } from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
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

  /** Lets the next go first, whose turn comes when nothing else waits: this one could not be taken as it is. */
  setAside(key: string): void {
    const name = this.names().find((each) => each.includes(key));
    if (name) fs.renameSync(path.join(this.folder, name), path.join(this.folder, `${name}.aside`));
  }

  /** How many are set aside. */
  aside(): number {
    return this.asideNames().length;
  }

  /** Puts those that were set aside back into the line, as after a restart. */
  takeUpAside(): void {
    for (const name of this.asideNames())
      fs.renameSync(path.join(this.folder, name), path.join(this.folder, name.slice(0, -'.aside'.length)));
  }

  private asideNames(): string[] {
    return fs.readdirSync(this.folder).filter((name) => name.endsWith('.exposure.aside'));
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

const patienceMs = 30_000;

interface Offered {
  acknowledged: boolean;
  status: number;
  message: string;
}

/** Offers one exposure once. Acknowledged, or to be offered again. A device has little to compute with: bytes go as they lie. */
export function offer(server: string, token: string, exposure: SpooledExposure): Promise<Offered> {
  return new Promise((resolve) => {
    const request = http.request(`${server}/device/v1/exposures`, {
      method: 'POST',
      headers: {
        authorization: `Bearer ${token}`,
        'content-type': 'application/octet-stream',
        'content-length': exposure.samples.length,
        'idempotency-key': exposure.key,
        'yonder-exposure': Buffer.from(JSON.stringify(exposure.description)).toString('base64url'),
        'content-digest': `sha-256=:${exposure.digest}:`
      }
    });
    const failed = (error: Error) => resolve({ acknowledged: false, status: 0, message: String(error) });
    request.setTimeout(patienceMs, () => request.destroy(new Error('no answer')));
    request.on('error', failed);
    request.on('response', (answer) => {
      const chunks: Buffer[] = [];
      answer.on('data', (chunk: Buffer) => chunks.push(chunk));
      answer.on('error', failed);
      answer.on('end', () => {
        const said = saidIn(Buffer.concat(chunks).toString('utf8'));
        resolve({
          acknowledged: answer.statusCode === 200 && said.pictureId !== undefined,
          status: answer.statusCode ?? 0,
          message: said.sentence ?? ''
        });
      });
    });
    request.end(exposure.samples);
  });
}

function saidIn(text: string): { pictureId?: string; sentence?: string } {
  try {
    return JSON.parse(text) as { pictureId?: string; sentence?: string };
  } catch {
    return {};
  }
}
