import { expect, it } from 'vitest';
import { isToRead } from './packageFiles';

const files = [
  'DICOMDIR',
  'DICOM/IM000001',
  'pictures/01 a.jpg',
  'kept views/01 a.jpg',
  'papers/Letter.pdf',
  'index.html'
];
const read = (paths: string[]) => paths.filter(isToRead(paths));

it('of a package its objects and papers are read, and what else lies there is not', () => {
  const ours = [...files, 'yonder-package.json'];
  expect(read(ours)).toEqual(['DICOMDIR', 'DICOM/IM000001', 'papers/Letter.pdf']);
});
it('wherever the package lies, and whatever lies beside it', () => {
  const ours = [...files, 'yonder-package.json'].map((path) => `disc/from us/${path}`);
  expect(read(['disc/a.jpg', 'disc/from us too/pictures/b.jpg', ...ours])).toEqual([
    'disc/a.jpg',
    'disc/from us too/pictures/b.jpg',
    'disc/from us/DICOMDIR',
    'disc/from us/DICOM/IM000001',
    'disc/from us/papers/Letter.pdf'
  ]);
});
it('of what is none all is read', () => {
  expect(read(files)).toEqual(files);
  expect(read(['not-yonder-package.json', 'a.jpg'])).toEqual(['not-yonder-package.json', 'a.jpg']);
});
