// Threads do not inherit the loader that reads TypeScript: this one sets it up and renders simulated pictures.
import { register } from 'tsx/esm/api';

register();
const { rendered } = await import('./jobs.ts');

export default rendered;
