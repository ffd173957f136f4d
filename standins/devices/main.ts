// The simulated devices of the clinic's rooms, in one process of their own.
import path from 'node:path';
import { type DemoDevice, devices as demoDevices, deviceCode } from '../../demo/devices';
import { RenderPool } from '../render/pool';
import { SimulatedDevice } from './simulatedDevice';

const server = process.env.YONDER_URL ?? 'http://127.0.0.1:4780';
const code = process.env.ENROLMENT_CODE ?? '';
const folder = process.env.SPOOL_FOLDER ?? path.resolve('.data/devices');
/** Their names, where not all of them are wanted. */
const wanted = process.env.DEVICES?.split(',');

const pool = new RenderPool(1);
const start = ({ name, kind }: DemoDevice): Promise<void> =>
  new SimulatedDevice({
    server,
    name,
    kind,
    code: deviceCode(code, name),
    folder: path.join(folder, name.toLowerCase().replace(/\W+/g, '-')),
    pool
  }).run();

process.on('SIGTERM', () => process.exit(0));
for (const device of demoDevices) if (!wanted || wanted.includes(device.name)) void start(device);
