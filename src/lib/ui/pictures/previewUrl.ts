import type { Look } from '../core/raster/look';
import type { Orientation } from '../core/raster/orientation';

/** The address of a small picture through a look and turned; the same look has the same address. */
export function previewUrl(picture: { pictureId: string; look: Look; orientation: Orientation }): string {
  const { look, orientation } = picture;
  const query = new URLSearchParams({
    center: String(look.window.center),
    width: String(look.window.width),
    inverted: look.inverted ? '1' : '0',
    turns: String(orientation.quarterTurns),
    mirrored: orientation.mirrored ? '1' : '0'
  });
  return `/api/pictures/${picture.pictureId}/preview?${query}`;
}
