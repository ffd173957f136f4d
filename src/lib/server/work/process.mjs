// Processes that open files from outside and make small pictures. Whatever happens to one, another takes its place.
import os from 'node:os';

// As it is written, it needs a reader of TypeScript; as it is built, none.
if (!process.env.YONDER_BUILT) (await import('tsx/esm/api')).register();
// Whoever waits at the chair goes first; whoever started this says how far behind it comes.
os.setPriority(0, Number(process.env.YONDER_NICE ?? 10));
process.env.YONDER_CONNECTIONS = '2';
const tasks = await import('./processTasks.ts');

export const openFile = (wish) => tasks.openFile(wish);
export const openFacts = (wish) => tasks.openFacts(wish);
export const compose = (wish) => tasks.compose(wish);
export const openFrame = (wish) => tasks.openFrame(wish);
export const openPaper = (wish) => tasks.openPaper(wish);
export const preview = (wish) => tasks.preview(wish);
export const advise = (wish) => tasks.advise(wish);
export const warm = () => tasks.warm();
export const arrival = (wish) => tasks.arrival(wish);
export const shown = (wish) => tasks.shown(wish);
export const film = (wish) => tasks.film(wish);
export const filmShown = (wish) => tasks.filmShown(wish);
export const samples = (wish) => tasks.samples(wish);
export const pdf = (wish) => tasks.pdf(wish);
export const letter = (wish) => tasks.letter(wish);
export const logo = (wish) => tasks.logo(wish);
export const print = (wish) => tasks.print(wish);
export const report = (wish) => tasks.report(wish);
export const pages = (wish) => tasks.pages(wish);
export const packed = (wish) => tasks.packed(wish);
export const veiled = (wish) => tasks.veiled(wish);
export const writing = (wish) => tasks.writing(wish);
