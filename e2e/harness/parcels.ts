import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import {
  type Address,
  type DestinationSettings,
  plainDestination
} from '../../src/lib/core/parcel/destination';
import { deliver } from '../../src/lib/server/dispatch/deliver';
import { keepDestination } from '../../src/lib/server/dispatch/destinations';
import { dispatchParcel } from '../../src/lib/server/dispatch/dispatchViews';
import { packParcel } from '../../src/lib/server/dispatch/packParcel';
import { sendParcel } from '../../src/lib/server/dispatch/parcels';
import type { useClinic } from './clinic';
import { readyVisit } from './testSensor';

/** What tests of parcels do again and again, in a clinic of their own. */
export function parcelsOf(clinic: ReturnType<typeof useClinic>) {
  const set = async (
    address: Address,
    more: Partial<DestinationSettings> = {},
    name = `to ${randomUUID()}`
  ): Promise<string> =>
    (
      await keepDestination(clinic.caller('administrator'), randomUUID(), {
        name,
        settings: { ...plainDestination(address), ...more }
      })
    ).destinationId;

  async function visitWithPictures(count: number): Promise<{ visitId: string; pictureIds: string[] }> {
    const { visitId, sensor } = await readyVisit(clinic);
    const pictureIds = [];
    for (let i = 0; i < count; i++) pictureIds.push(await sensor.expose(i));
    return { visitId, pictureIds };
  }

  async function sent(
    visitId: string,
    wish: Omit<Parameters<typeof sendParcel>[3], 'warned'> & { warned?: boolean }
  ): Promise<string> {
    const { parcelId } = await sendParcel(clinic.caller('front-desk'), visitId, randomUUID(), {
      warned: true,
      ...wish
    });
    await packParcel(clinic.clinicId, parcelId!);
    return parcelId!;
  }

  /** One try at everything that waits, as the queue would. */
  async function tryOnce(parcelId: string) {
    for (const { deliveryId, state } of (await dispatchParcel(clinic.caller(), parcelId)).items)
      if (state === 'waiting' || state === 'sending') await deliver(clinic.clinicId, deliveryId);
    return dispatchParcel(clinic.caller(), parcelId);
  }

  return { set, visitWithPictures, sent, tryOnce };
}

/** Starts a stand-in, and waits until it answers. @param env with the port it answers at */
export async function standIn(
  name: string,
  answersAt: string,
  env: NodeJS.ProcessEnv
): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--import', 'tsx', `standins/${name}/main.ts`], {
    env: { ...process.env, ...env },
    stdio: 'ignore'
  });
  for (let tries = 0; tries < 100; tries++) {
    if (await fetch(answersAt).catch(() => null)) return child;
    await new Promise((go) => setTimeout(go, 100));
  }
  throw new Error(`the stand-in ${name} does not answer`);
}
