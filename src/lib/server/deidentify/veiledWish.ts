/** A picture whose veiled copy is wished. */
export interface VeiledWish {
  clinicId: string;
  pictureId: string;
}
