import fs from 'node:fs';
import type { Fineness, speakingKinds } from '../../src/lib/core/devices/deviceKind';

export interface Registration {
  server: string;
  name: string;
  kind: (typeof speakingKinds)[number];
  code: string;
  finenesses?: readonly Fineness[];
}

/** The token that a device shows, kept on its own disk. */
export class Token {
  value: string;

  constructor(
    private readonly file: string,
    private readonly wish: Registration
  ) {
    this.value = fs.existsSync(file) ? fs.readFileSync(file, 'utf8') : '';
  }

  /** Makes the device known with its code; nothing happens where the server is away or refuses it. */
  async register(): Promise<void> {
    const { server, code, name, kind, finenesses } = this.wish;
    const answer = await fetch(`${server}/device/v1/registrations`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ code, name, kind, finenesses })
    }).catch(() => null);
    if (!answer?.ok) return;
    this.value = ((await answer.json()) as { token: string }).token;
    fs.writeFileSync(this.file, this.value, { mode: 0o600 });
  }

  /** Tries until the device is known. */
  async untilKnown(): Promise<void> {
    while (this.value === '') {
      await this.register();
      if (this.value === '') await new Promise((done) => setTimeout(done, 1000));
    }
  }

  /** Says something to the clinic that nobody waits for. */
  async say(what: string, body: object): Promise<void> {
    if (this.value === '') return;
    await fetch(`${this.wish.server}/device/v1/${what}`, {
      method: 'PUT',
      headers: { authorization: `Bearer ${this.value}`, 'content-type': 'application/json' },
      body: JSON.stringify(body)
    }).catch(() => {});
  }
}
