/** Letters of a point in a millimetre. */
const ptPerMm = 72 / 25.4;
/** Words under a picture are so large. */
export const captionPt = 7.5;
/** Letters are about so wide, in heights of theirs: few are wider on the whole. */
export const letterShare = 0.58;

/** How many letters a line under a picture holds. */
export const perLineOf = (widthMm: number, pt = captionPt): number =>
  Math.floor((widthMm * ptPerMm) / (letterShare * pt));

/** How high a line under a picture is. */
export const captionLineMm = (captionPt * 1.1) / ptPerMm;
