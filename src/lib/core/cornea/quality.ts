import type { FoundRings } from './rings';
import type { RingTarget } from './target';

export interface CaptureQuality {
  /** 0 to 100: how much of the rings was seen, how sharp and how clear. */
  percent: number;
  /** What it means to the person at the chair. */
  description: string;
  /** Share of all ring edges that were seen, and in the quarter that has fewest. */
  seen: number;
  fewest: { quarter: 'right' | 'below' | 'left' | 'above'; seen: number };
}

const quarters = ['right', 'below', 'left', 'above'] as const;
const sharpPx = 3;
const blurredPx = 7;
const fullContrast = 90;
/** The faintest way has this share of the clearest way's contrast at least in an eye that stood still. */
const stillShare = 0.75;
/** Below this share of its rings a quarter is hidden. */
const hiddenShare = 0.65;
/** A take that says "again" has no more than this. */
const mostAgain = 54;

/** Whether to keep a take, from its rings alone. */
export function qualityOf(rings: FoundRings, target: RingTarget): CaptureQuality {
  const { radii, meridians } = rings;
  const counts = quarters.map(() => 0);
  for (const ring of radii)
    ring.forEach((r, m) => {
      if (Number.isNaN(r)) return;
      counts[Math.floor(((m + meridians / 8) % meridians) / (meridians / 4))]++;
    });
  const each = (target.edges.length * meridians) / 4;
  const shares = counts.map((count) => count / each);
  const seen = shares.reduce((a, b) => a + b, 0) / 4;
  const least = Math.min(...shares);
  const fewest = { quarter: quarters[shares.indexOf(least)], seen: least };
  const sharp = clamped((blurredPx - rings.widthPx) / (blurredPx - sharpPx));
  const clear = clamped(rings.contrast / fullContrast);
  const ways = rings.contrastByWay.filter(Number.isFinite);
  const still = clamped(Math.min(...ways) / Math.max(...ways) / stillShare);
  const percent = Math.round(
    100 *
      clamped(0.65 * seen + 0.35 * least + 0.02) *
      (0.4 + 0.6 * sharp) *
      (0.4 + 0.6 * clear) *
      (0.4 + 0.6 * still)
  );
  const again = whyAgain(fewest, sharp, clear, still);
  if (again) return { percent: Math.min(mostAgain, percent), description: again, seen, fewest };
  return { percent, description: seen > 0.85 ? 'Good.' : 'Usable; some rings are missing.', seen, fewest };
}

const clamped = (value: number) => Math.min(1, Math.max(0, value));

function whyAgain(
  { quarter, seen }: CaptureQuality['fewest'],
  sharp: number,
  clear: number,
  still: number
): string | null {
  if (still < 0.7) return 'The eye moved while the picture was taken. Take it again.';
  if (sharp < 0.5) return 'The rings are blurred: the eye was out of focus. Take it again.';
  if (clear < 0.5)
    return 'The rings are faint: the tear film has broken up or the light is low. Let the person blink, then take it again.';
  if (seen >= hiddenShare) return null;
  return quarter === 'above'
    ? 'The lid or lashes hide the rings above. Lift the lid and take it again.'
    : `Rings are missing ${quarter === 'below' ? 'below' : `on the ${quarter}`}. Take it again if that side matters.`;
}
