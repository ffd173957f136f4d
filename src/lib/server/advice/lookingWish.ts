export interface LookingWish {
  clinicId: string;
  pictureId: string;
}
