import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import type { Raster } from '../../src/lib/core/raster/raster';
import type { RunningClinic } from './running';

export interface Answer {
  status: number;
  /** Where it leads, if anywhere. */
  location: string | null;
  text: string;
  /** What the answer says, where it is JSON; else empty. */
  said: Record<string, unknown>;
}

/** Asks a running clinic as somebody who is signed in, past all pages. */
export class Asking {
  private constructor(
    private readonly clinic: RunningClinic,
    /** What says who asks; empty for nobody. */
    readonly cookie: string
  ) {}

  static nobody(clinic: RunningClinic): Asking {
    return new Asking(clinic, '');
  }

  static async as(clinic: RunningClinic, name: string, password: string): Promise<Asking> {
    const answer = await fetch(`${clinic.origin}/sign-in`, {
      method: 'POST',
      redirect: 'manual',
      headers: { origin: clinic.origin },
      body: new URLSearchParams({ name, password })
    });
    const session = /session=[^;]+/.exec(answer.headers.get('set-cookie') ?? '')?.[0];
    if (!session) throw new Error(`${name} could not sign in: ${answer.status}`);
    return new Asking(clinic, session);
  }

  async get(where: string): Promise<Answer> {
    return this.answer(
      await fetch(this.clinic.origin + where, { headers: { cookie: this.cookie }, redirect: 'manual' })
    );
  }

  /** A file, as it comes. */
  async bytes(where: string): Promise<ArrayBuffer> {
    const answer = await fetch(this.clinic.origin + where, { headers: { cookie: this.cookie } });
    if (!answer.ok) throw new Error(`${where} was refused: ${answer.status}`);
    return answer.arrayBuffer();
  }

  /** With a key of its own unless one is given; strings and bytes go as they are, anything else as JSON. */
  async send(
    method: string,
    where: string,
    body: unknown,
    key: string | null = randomUUID()
  ): Promise<Answer> {
    const plain = typeof body === 'string' || body instanceof Uint8Array;
    const headers: Record<string, string> = {
      'content-type': body instanceof Uint8Array ? 'application/octet-stream' : 'application/json',
      origin: this.clinic.origin,
      cookie: this.cookie
    };
    if (key !== null) headers['idempotency-key'] = key;
    return this.answer(
      await fetch(this.clinic.origin + where, {
        method,
        headers,
        redirect: 'manual',
        body: plain ? (body as string) : JSON.stringify(body)
      })
    );
  }

  /** Brings a picture into a visit as a PNG, in 16 bits where it has no colours. @returns its id */
  async bring(visitId: string, name: string, { width, height, channels, data }: Raster): Promise<string> {
    const whole = sharp(data, { raw: { width, height, channels } });
    const png = await (channels === 1 ? whole.toColourspace('grey16') : whole).png().toBuffer();
    const { said } = await this.send(
      'POST',
      `/api/visits/${visitId}/files?name=${name}.png`,
      new Uint8Array(png)
    );
    return String(said.pictureId);
  }

  private async answer(response: Response): Promise<Answer> {
    const text = await response.text();
    let said: Record<string, unknown> = {};
    try {
      said = JSON.parse(text) as Record<string, unknown>;
    } catch {
      // A page, or bytes.
    }
    return { status: response.status, location: response.headers.get('location'), text, said };
  }

  /** A visit in the room for teeth. @returns its patient, by their record number, and the visit */
  async teethVisit(record: string): Promise<{ patientId: string; visitId: string; family: string }> {
    const [row] = await this.clinic.rows<{ patient_id: string; room_id: string; family_name: string }>(
      `select p.patient_id, p.family_name, r.room_id from patient p join room r using (clinic_id)
       where p.record_number = $1 and r.name = 'Teeth'`,
      [record]
    );
    const { patient_id: patientId, room_id: roomId, family_name: family } = row;
    const { said } = await this.send('POST', '/api/visits', { patientId, roomId });
    return { patientId, visitId: String(said.visitId), family };
  }
}
