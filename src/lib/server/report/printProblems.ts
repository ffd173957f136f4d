import { pictureName, type PictureView } from '../../core/picture/pictureView';
import { Problem } from '../problem';

export const noneLeft = () =>
  new Problem('no-picture', 'None of these pictures is in this visit any more.', 'Choose others.', 409);

/** Nobody knows how large they are. */
export const unscaled = (without: readonly PictureView[]) =>
  new Problem(
    'no-scale',
    `${without.length === 1 ? `“${pictureName(without[0])}” has` : `${without.length} of these pictures have`} no scale, so nobody knows how large ${without.length === 1 ? 'it is' : 'they are'}.`,
    'Set the scale at Scale first, or print in rows.',
    409
  );
