/** The picture in which writing is looked for. */
export interface WritingWish {
  clinicId: string;
  pictureId: string;
}
