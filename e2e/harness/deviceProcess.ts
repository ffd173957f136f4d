// A device as a process of its own, which can be killed: it offers what lies on its disk until it is acknowledged.
//   tsx e2e/harness/deviceProcess.ts ORIGIN TOKEN FOLDER
import { Spool } from '../../standins/devices/spool';
import { offerForEver } from './offering';

const [origin, token, folder] = process.argv.slice(2);
await offerForEver({ origin, token, spool: new Spool(folder), going: () => true });
