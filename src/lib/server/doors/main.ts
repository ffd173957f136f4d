// The doors: a process of its own where mail and other systems' pictures come in.
import { stopQueue, startQueue } from '../jobs/boss';
import { closeDatabase } from '../database/connection';
import { endOnFaults } from '../log';
import { openMailDoor } from '../mail/mailDoor';
import { openDimseDoor } from '../network/dimseDoor';
import { stopProcesses } from '../work/processes';

endOnFaults();
await startQueue();
const host = process.env.YONDER_DOORS_HOST ?? '127.0.0.1';
const mail = await openMailDoor(Number(process.env.YONDER_MAIL_PORT), host);
const network = await openDimseDoor(Number(process.env.YONDER_DICOM_PORT), host);
process.send?.({ ready: true });

async function stop(): Promise<void> {
  network.close();
  await new Promise<void>((done) => mail.close(done));
  await stopProcesses();
  await stopQueue();
  await closeDatabase();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
