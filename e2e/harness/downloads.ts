import fs from 'node:fs';
import path from 'node:path';
import type { Browser } from './browser';

/** The file that a browser's download left in a folder, once all of it is there; it is put out of the next one's way. */
export async function downloadedTo(folder: string, browser: Browser): Promise<string> {
  let file = '';
  await browser.until('the file is there', async () => {
    file = fs.readdirSync(folder).find((name) => /\.(pdf|json)$/.test(name)) ?? '';
    return file !== '';
  });
  const at = path.join(folder, `${Date.now()} had`);
  fs.renameSync(path.join(folder, file), at);
  return at;
}
