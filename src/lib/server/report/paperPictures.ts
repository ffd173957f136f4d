import sharp from 'sharp';

/** Small pictures as a PDF holds them, by their pictures. @param small as WebP */
export const asJpegs = async (
  small: Readonly<Record<string, Uint8Array>>
): Promise<ReadonlyMap<string, string>> =>
  new Map(
    await Promise.all(
      Object.entries(small).map(async ([pictureId, webp]) => {
        const jpeg = await sharp(webp).flatten({ background: '#000' }).jpeg({ quality: 90 }).toBuffer();
        return [pictureId, jpegUrl(jpeg)] as const;
      })
    )
  );

export const jpegUrl = (jpeg: Uint8Array): string =>
  `data:image/jpeg;base64,${Buffer.from(jpeg.buffer, jpeg.byteOffset, jpeg.byteLength).toString('base64')}`;

/** What stands in the place of a picture that can't be read. */
export const unreadable = 'This picture could not be read.';
