// Threads do not inherit the loader that reads TypeScript: this one sets it up and renders simulated pictures.
import os from 'node:os';
import { register } from 'tsx/esm/api';

register();
// A real detector makes its picture on a machine of its own; a simulated one takes no time from what looks at it.
os.setPriority(0, Number(process.env.RENDER_NICE ?? 12));
const { rendered } = await import('./jobs.ts');

export default rendered;
