/** What lies in every package of ours, and tells that it is one. */
export const packageMark = 'yonder-package.json';

/** What of a package tells of its pictures; the rest of it shows them to those who have not this product. */
const told = /^(DICOM(DIR$|\/)|papers\/)/;

/**
 * Which of the files that lie together are to be read: of a package of ours its objects and papers, and all that lies
 * outside of any.
 * @param paths of all of them, with "/" between folders
 */
export function isToRead(paths: readonly string[]): (path: string) => boolean {
  const roots = packageRoots(paths);
  return (path) => {
    const root = roots.find((each) => path.startsWith(each));
    return root === undefined || told.test(path.slice(root.length));
  };
}

/** Where packages of ours begin, the innermost first. */
export const packageRoots = (paths: readonly string[]): string[] =>
  paths
    .filter((path) => path === packageMark || path.endsWith(`/${packageMark}`))
    .map((path) => path.slice(0, path.length - packageMark.length))
    .sort((a, b) => b.length - a.length);
