import { z } from 'zod';
import { type Versioned, readVersioned } from '../versioned';
import { type LetterBody, letterBody } from './letterBody';

export const templateName = z
  .string()
  .trim()
  .min(1, 'Give it a name.')
  .max(120, 'A name has at most 120 letters.');

const exported = z.strictObject({
  what: z.literal('letter template'),
  version: z.number().int().positive(),
  name: templateName,
  body: z.unknown()
});

/** A template as a file that another clinic can bring in. */
export const templateFile = (name: string, body: LetterBody): string =>
  `${JSON.stringify({ what: 'letter template', version: letterBody.version, name, body }, null, 2)}\n`;

/**
 * Reads a template from such a file.
 * @throws RangeError with a sentence for what is none
 */
export function readTemplateFile(text: string): { name: string; body: LetterBody } {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (cause) {
    throw new RangeError('It is not written as JSON.', { cause });
  }
  const read = exported.safeParse(parsed);
  if (!read.success) throw new RangeError('It is no letter template of Yonder Tray.');
  const { name, version, body } = read.data;
  try {
    return { name, body: readVersioned('This template', letterBody as Versioned<LetterBody>, version, body) };
  } catch (cause) {
    throw new RangeError(cause instanceof Error ? `${cause.message}.` : 'It can’t be read.', { cause });
  }
}
