import { type PaperBox, type PaperShape, at, dot, inks } from './paperShapes';
import type { FigurePart } from './postureFigure';

/** What the figure of a posture is drawn in, in millimetres about the point between the feet's middle and the pelvis. */
export const postureBox: PaperBox = { left: -330, top: -860, width: 660, height: 1240 };

const headHigh = 112;

/** The figure of a posture as lines, drawn from its readings: its parts' own lines last, in red. */
export function postureShapes(parts: readonly FigurePart[], seen: 'front' | 'side'): PaperShape[] {
  const of = (key: string) => parts.find((part) => part.key === key)!;
  const [head, chest, pelvis] = [of('head'), of('chest'), of('pelvis')];
  const lean = Math.atan2(head.to.y - head.from.y, head.to.x - head.from.x);
  const [across, deg] = seen === 'front' ? [78, (lean * 180) / Math.PI] : [95, 0];
  const [c, s] = [across * Math.cos((deg * Math.PI) / 180), across * Math.sin((deg * Math.PI) / 180)];
  const { x, y } = head.middle;
  const trunk =
    seen === 'front'
      ? `M${at(chest.from.x, chest.from.y)}L${at(chest.to.x, chest.to.y)}L${at(pelvis.to.x, pelvis.to.y)}L${at(pelvis.from.x, pelvis.from.y)}Z`
      : `M${at(chest.middle.x - 105, chest.middle.y)}Q${at(chest.middle.x - 20, chest.middle.y - 40)} ${at(chest.middle.x + 105, chest.middle.y)}L${at(pelvis.middle.x + 95, pelvis.middle.y)}L${at(pelvis.middle.x - 110, pelvis.middle.y)}Z`;
  return [
    { d: 'M0 -850V370', stroke: inks.dark, width: 3, dashed: true },
    { d: trunk, stroke: inks.black, width: 5, fill: inks.skin },
    {
      d: `M${at(x - c, y - s)}A${at(across, headHigh)} ${at(deg)} 1 0 ${at(x + c, y + s)}A${at(across, headHigh)} ${at(deg)} 1 0 ${at(x - c, y - s)}Z`,
      stroke: inks.black,
      width: 5,
      fill: inks.skin
    },
    { d: `M${at(x, y + headHigh)}L${at(chest.middle.x, chest.middle.y - 10)}`, stroke: inks.black, width: 5 },
    ...[-60, 60].map((off): PaperShape => ({
      d: `M${at(pelvis.middle.x + off, pelvis.middle.y + 10)}V370`,
      stroke: inks.black,
      width: 3
    })),
    ...parts.flatMap(({ from, to }): PaperShape[] => [
      { d: `M${at(from.x, from.y)}L${at(to.x, to.y)}`, stroke: inks.red, width: 6 },
      ...[from, to].map((end): PaperShape => ({
        d: dot(end.x, end.y, 10),
        stroke: inks.red,
        width: 1,
        fill: inks.red
      }))
    ])
  ];
}
