// Threads do not inherit the loader that reads TypeScript: this one sets it up and goes on to the worker.
import { register } from 'tsx/esm/api';

register();
await import('./worker.ts');
