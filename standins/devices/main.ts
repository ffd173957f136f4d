// The simulated devices of the clinic's rooms, in one process of their own.
import path from 'node:path';
import { type DemoDevice, devices as demoDevices, deviceCode } from '../../demo/devices';
import { RenderPool } from '../render/pool';
import { SimulatedBeam } from './pictures';
import { PlateScanner, finenesses } from './plateScanner';
import { SimulatedDevice } from './simulatedDevice';
import { WatchedFolder } from './watchedFolder';

const server = process.env.YONDER_URL ?? 'http://127.0.0.1:4780';
const code = process.env.ENROLMENT_CODE ?? '';
const folder = process.env.SPOOL_FOLDER ?? path.resolve('.data/devices');
/** Their names, where not all of them are wanted. */
const wanted = process.env.DEVICES?.split(',');

/** Where each run is to show the same pictures: the folder where they are kept for the next run. */
const renderedIn = process.env.RENDERED_FOLDER;

const pool = new RenderPool(1, renderedIn);

function start({ name, kind }: DemoDevice): Promise<void> {
  const its = {
    server,
    name,
    code: deviceCode(code, name),
    folder: path.join(folder, name.toLowerCase().replace(/\W+/g, '-')),
    beam: new SimulatedBeam(pool, renderedIn !== undefined)
  };
  if (kind === 'folder') return new WatchedFolder({ ...its, watched: path.join(its.folder, 'files') }).run();
  if (kind === 'plate-scanner') return new PlateScanner({ ...its, kind, finenesses }).run();
  return new SimulatedDevice({ ...its, kind }).run();
}

process.on('SIGTERM', () => process.exit(0));
for (const device of demoDevices) if (!wanted || wanted.includes(device.name)) void start(device);
