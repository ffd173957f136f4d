// Threads and processes of pools do not inherit the loader that reads TypeScript: this one sets it up, then hands over.
if (!process.env.YONDER_BUILT) (await import('tsx/esm/api')).register();
const tasks = await import('./threadTasks.ts');

export const digest = (wish) => tasks.digest(wish);
export const coarse = (wish) => tasks.coarse(wish);
export const survey = (wish) => tasks.survey(wish);
