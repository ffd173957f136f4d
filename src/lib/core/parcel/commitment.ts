/**
 * What an archive says of keeping a picture (storage commitment, PS3.4 J): nothing, because it was not asked or has no
 * answer to that; that it was asked and says so later; that it keeps it.
 */
export type Commitment = '' | 'asked' | 'kept';

export const commitmentWords: Readonly<Record<Commitment, string>> = {
  '': '',
  asked: ', whether it is kept is answered later',
  kept: ', the archive keeps it'
};
