import { type Address, isArchive, wantsClaims } from '../../core/parcel/destination';
import type { Packing } from '../../core/parcel/packing';
import { Problem } from '../problem';

/** @throws Problem where a destination can't take what is packed so */
export function demandFits(address: Pick<Address, 'kind'>, { format }: Packing): void {
  if (isArchive(address) && format !== 'dicom')
    throw new Problem(
      'archive-format',
      'An archive takes DICOM and nothing else.',
      'Choose DICOM as the format.',
      422
    );
  if (wantsClaims(address) && format !== 'jpeg' && format !== 'png')
    throw new Problem(
      'claims-format',
      'A claims office takes pictures as they are seen.',
      'Choose JPEG or PNG as it is seen.',
      422
    );
}

/** A claims office has to know whose picture it is, and is told of each by a person. */
export const claimsByHand = () =>
  new Problem(
    'claims-by-hand',
    'A claims office has to know whose picture it is, and is told of each by a person.',
    'Keep the identity, and let nothing go there by itself.',
    422
  );

/** A film says whose picture it is, and a person lays it out. */
export const filmsByHand = () =>
  new Problem(
    'films-by-hand',
    'A film says whose pictures it has, and is laid out by a person.',
    'Keep the identity, and let nothing go there by itself.',
    422
  );
