import type { LevelBytes } from './levelBytes';

/**
 * Levels of pictures that have just come in, while the records do not have them yet: what the page that waits is given
 * at once. Only a shortcut: whatever is not here is read from the records, or made.
 */
const levels = new Map<string, Promise<LevelBytes[]>>();
const mostPictures = 12;

export function rememberLevels(pictureId: string, making: Promise<LevelBytes[]>): void {
  levels.delete(pictureId);
  levels.set(pictureId, making);
  making.catch(() => levels.delete(pictureId));
  if (levels.size > mostPictures) levels.delete(levels.keys().next().value!);
}

export async function freshLevel(pictureId: string, level: number): Promise<LevelBytes | null> {
  const all = await levels.get(pictureId)?.catch(() => null);
  return all?.find((each) => each.frame === 0 && each.level === level) ?? null;
}
