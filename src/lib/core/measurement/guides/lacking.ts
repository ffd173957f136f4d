import { measureKinds } from './writtenMeasures';
import { type WrittenGuide, writtenGuideSchema } from './writtenSchema';

/** What a guide that is being written still lacks, first things first, in a sentence; null where it can be kept. */
export function lacking(guide: WrittenGuide): string | null {
  const unnamed = (words: string) => words.trim() === '';
  if (unnamed(guide.name)) return 'The guide has no name yet.';
  for (const view of guide.views) {
    if (unnamed(view.name)) return 'A view has no name yet.';
    if (view.landmarks.length === 0) return `“${view.name}” has no landmarks yet: press on its sheet.`;
    const [i, bare] = [...view.landmarks.entries()].find(([, each]) => unnamed(each.name)) ?? [];
    if (bare) return `Landmark ${i! + 1} of “${view.name}” has no name yet.`;
    const vague = view.landmarks.find(({ where }) => unnamed(where));
    if (vague) return `“${vague.name}” does not say where it is yet.`;
  }
  if (guide.results.length === 0) return 'Nothing is measured yet: add a result.';
  for (const { name, measure, of, source } of guide.results) {
    if (unnamed(name)) return 'A result has no name yet.';
    const { least } = measureKinds[measure];
    if (of.length < least || of.some(unnamed)) return `“${name}” needs ${least} landmarks.`;
    if (unnamed(source.author) || unnamed(source.title) || !Number.isInteger(source.year))
      return `“${name}” does not say where it comes from yet: author, year and title.`;
  }
  const read = writtenGuideSchema.safeParse(guide);
  return read.success ? null : whyUnread(read.error.issues);
}

/** Why a file is no guide, in a sentence that says where in it. */
export function whyUnread(issues: readonly { path: PropertyKey[]; message: string }[]): string {
  const [{ path, message }] = issues;
  const where = path.map((each) => (typeof each === 'number' ? each + 1 : String(each))).join(' ');
  const says = message.charAt(0).toUpperCase() + message.slice(1);
  return where === '' ? `${says}.` : `${says} (at ${where}).`;
}
