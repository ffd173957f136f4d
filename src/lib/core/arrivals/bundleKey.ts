import { foldedName } from '../people/names';
import { shortened } from '../text';
import { type Says, nothingSaid } from './says';

const longestKey = 400;

/**
 * By which what comes together is put together: pictures of one person and one study; what says nothing of either lies
 * with the rest of its kind.
 */
export function bundleKeyOf(says: Says | null): string {
  const { person, study } = says ?? nothingSaid;
  return shortened([foldedName(person.name), person.id, person.birthDate, study.uid].join('|'), longestKey);
}
