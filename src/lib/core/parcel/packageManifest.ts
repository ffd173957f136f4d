import type { PageOf } from './packageParts';

/** What a package says it is, by which this product knows it again; what only it knows of it stands beside. */
export const packageManifest = (
  identity: 'identified' | 'deidentified',
  pages: readonly PageOf[],
  more: Readonly<Record<string, unknown>> = {}
): string =>
  JSON.stringify(
    {
      format: 'yonder-package',
      version: 1,
      identity,
      ...more,
      pictures: pages.map(({ uids, what, date, files }) => ({ ...uids, what, date, files }))
    },
    null,
    2
  );
