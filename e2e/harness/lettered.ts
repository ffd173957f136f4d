import sharp from 'sharp';

export const letteredSize = { width: 420, height: 260 };

/** A grey picture with something in it, and letters where that is wished, as PNG. */
export function letteredPng(letters = ''): Promise<Buffer> {
  const { width, height } = letteredSize;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#333"/><circle cx="260" cy="150" r="70" fill="#888"/><text x="14" y="34" font-family="sans-serif" font-size="24" fill="#fff">${letters}</text></svg>`;
  return sharp(Buffer.from(svg)).greyscale().png().toBuffer();
}
