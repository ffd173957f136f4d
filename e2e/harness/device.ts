import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import { closeDatabase, inClinic } from '../../src/lib/server/database/connection';
import { startQueue, stopQueue } from '../../src/lib/server/jobs/boss';
import type { Caller } from '../../src/lib/server/people/caller';
import { openVisit } from '../../src/lib/server/visits/visits';
import { changeTray, heldFirstTray } from '../../src/lib/server/trays/trays';
import { readyDevice } from '../../src/lib/server/devices/devices';
import { followInstructions } from '../../standins/devices/instructions';
import { Spool } from '../../standins/devices/spool';
import { offerForEver } from './offering';
import type { RunningClinic } from './running';

export const exposureWidth = 1300;
export const exposureHeight = 1700;

/** A device for tests: it exposes when told to, keeps what it exposed, and offers it until it is acknowledged. */
export class TestDevice {
  token = '';
  deviceId = '';
  armingId: string | null = null;
  offers = 0;
  private stopped = false;
  readonly spool: Spool;

  constructor(
    private readonly clinic: RunningClinic,
    private readonly folder: string,
    private readonly name = 'Test sensor'
  ) {
    fs.mkdirSync(folder, { recursive: true });
    this.spool = new Spool(folder);
  }

  async start(): Promise<void> {
    const answer = await fetch(`${this.clinic.origin}/device/v1/registrations`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        code: await this.clinic.newCode(),
        name: this.name,
        kind: 'intraoral-sensor'
      })
    });
    ({ token: this.token, deviceId: this.deviceId } = (await answer.json()) as {
      token: string;
      deviceId: string;
    });
    void followInstructions(
      this.clinic.origin,
      { value: this.token, register: async () => {} },
      (event, data) => {
        const instruction = data as { kind: string; armingId?: string };
        if (event === 'instruction')
          this.armingId = instruction.kind === 'arm' ? instruction.armingId! : null;
      }
    );
    void this.offerForEver();
  }

  stop(): void {
    this.stopped = true;
  }

  /** As after it was killed: what it has on its disk, and its token, and nothing of what it was just doing. */
  startedAgain(): TestDevice {
    this.stopped = true;
    const again = new TestDevice(this.clinic, this.folder, this.name);
    again.token = this.token;
    again.deviceId = this.deviceId;
    void again.offerForEver();
    return again;
  }

  /** Says that it is there, as devices do: for pages that look at its lamp. */
  async sayLamp(): Promise<void> {
    while (!this.stopped) {
      await fetch(`${this.clinic.origin}/device/v1/lamp`, {
        method: 'PUT',
        headers: { authorization: `Bearer ${this.token}`, 'content-type': 'application/json' },
        body: JSON.stringify({ lamp: this.armingId ? 'ready' : 'resting', words: '' })
      }).catch(() => {});
      await new Promise((done) => setTimeout(done, 400));
    }
  }

  private async offerForEver(): Promise<void> {
    await offerForEver({
      origin: this.clinic.origin,
      token: this.token,
      spool: this.spool,
      going: () => !this.stopped,
      onoffer: () => (this.offers += 1)
    });
  }

  /** Exposes with samples that nobody else has: the number stands in the first of them. */
  expose(armingId: string, number: number): Buffer {
    const samples = Buffer.alloc(exposureWidth * exposureHeight * 2);
    for (let i = 0; i < samples.length; i += 4)
      samples.writeUInt32LE(((i * 2654435761) ^ (number * 40503)) >>> 0, i);
    samples.writeUInt32LE(number, 0);
    this.spool.add(
      {
        armingId,
        takenAt: new Date().toISOString(),
        width: exposureWidth,
        height: exposureHeight,
        bitsStored: 16,
        pitchMm: 0.02
      },
      samples
    );
    return samples;
  }

  async untilEmpty(ms: number): Promise<void> {
    const until = Date.now() + ms;
    while (this.spool.count() > 0) {
      if (Date.now() > until) throw new Error(`${this.spool.count()} exposures were never acknowledged`);
      await new Promise((done) => setTimeout(done, 50));
    }
  }
}

/** A visit whose tray is anchored at its first slot, with the device armed for it: any number of takes go there. */
export async function anchoredVisit(
  clinic: RunningClinic,
  device: TestDevice,
  record = 'QS-1052'
): Promise<{ visitId: string; armingId: string }> {
  const [ids] = await clinic.rows<{
    clinic_id: string;
    user_id: string;
    patient_id: string;
    room_id: string;
  }>(
    `select u.clinic_id, u.user_id, p.patient_id, r.room_id from user_account u, patient p, room r
     where u.sign_in_name = 'orsin' and p.record_number = '${record}' and r.name = 'Teeth' and r.clinic_id = u.clinic_id`
  );
  const session = randomBytes(32).toString('hex');
  await clinic.rows(
    `insert into user_session values ('\\x${session}', '${ids.clinic_id}', '${ids.user_id}', now() + interval '1 day')`
  );
  const caller: Caller = {
    userId: ids.user_id,
    session,
    clinicId: ids.clinic_id,
    role: 'clinician',
    name: 'Orsin Vael',
    clinicName: '',
    notation: 'fdi',
    language: 'en-GB',
    timeZone: 'UTC'
  };
  await startQueue();
  try {
    const visitId = await openVisit(caller, ids.patient_id, ids.room_id);
    const trayId = await inClinic(caller.clinicId, async (tx) => {
      const stored = await heldFirstTray(tx, visitId);
      await changeTray(tx, stored, [{ kind: 'anchored', slotId: stored.tray.route[0] }], caller);
      return stored.trayId;
    });
    await readyDevice(caller, device.deviceId, trayId);
  } finally {
    await stopQueue();
    await closeDatabase();
  }
  const [visit] = await clinic.rows<{ visit_id: string; arming_id: string }>(
    `select t.visit_id, d.arming_id from device d join arming a using (arming_id) join tray t using (tray_id)
     where d.device_id = '${device.deviceId}'`
  );
  return { visitId: visit.visit_id, armingId: visit.arming_id };
}

/** What became of numbered exposures: how often each number stands among the stored originals, takes and audit lines. */
export async function accountOf(
  clinic: RunningClinic,
  visitId: string
): Promise<{ numbers: number[]; takes: number; lines: number; keys: number }> {
  const originals = await clinic.originals(`where visit_id = '${visitId}'`);
  const [counts] = await clinic.rows<{ takes: string; lines: string; keys: string }>(
    `select (select count(*) from tray_event e join tray t using (tray_id) where t.visit_id = '${visitId}' and e.kind = 'take-added') as takes,
            (select count(*) from audit_line where act = 'exposure stored' and details->>'visit' = '${visitId}') as lines,
            (select count(*) from arrival_key k join picture p using (picture_id) where p.visit_id = '${visitId}') as keys`
  );
  return {
    numbers: originals.map((bytes) => bytes.readUInt32LE(0)).sort((a, b) => a - b),
    takes: Number(counts.takes),
    lines: Number(counts.lines),
    keys: Number(counts.keys)
  };
}
