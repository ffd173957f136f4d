import { Unreadable, readVersioned } from '../../versioned';
import { aboutLayer } from './about/about';
import { angleLayer } from './angle/angle';
import { findingLayer } from './finding/finding';
import { guideLayer } from './guide/guide';
import { gradeLayer } from './grade/grade';
import type { LayerKind } from './layerKind';
import { lengthLayer } from './length/length';
import { curveLayer } from './curve/curve';
import { twoLinesLayer } from './twoLines/twoLines';
import { ratioLayer } from './ratio/ratio';
import { toLineLayer } from './toLine/toLine';
import { circleLayer } from './circle/circle';
import { ellipseLayer } from './ellipse/ellipse';
import { areaLayer } from './area/area';
import { regionLayer } from './region/region';
import { profileLayer } from './profile/profile';
import { arrowLayer } from './arrow/arrow';
import { textLayer } from './text/text';
import { freehandLayer } from './freehand/freehand';
import { outlineLayer } from './outline/outline';
import { labelLayer } from './label/label';
import { noteLayer } from './note/note';
import { commonLayer } from './common/common';
import { keptLayer } from './kept/kept';
import { cropLayer } from './crop/crop';
import { confirmedLayer } from './confirmed/confirmed';
import { lookLayer } from './look/look';
import { orientationLayer } from './orientation/orientation';
import { scaleLayer } from './scale/scale';
import { takenLayer } from './taken/taken';
import { veilsLayer } from './veils/veils';

/** Everything that can be on a picture, in the order in which lists show it. */
export const layerKinds = [
  lookLayer,
  orientationLayer,
  cropLayer,
  takenLayer,
  aboutLayer,
  gradeLayer,
  scaleLayer,
  veilsLayer,
  lengthLayer,
  curveLayer,
  toLineLayer,
  angleLayer,
  twoLinesLayer,
  ratioLayer,
  circleLayer,
  ellipseLayer,
  areaLayer,
  regionLayer,
  profileLayer,
  guideLayer,
  arrowLayer,
  textLayer,
  labelLayer,
  freehandLayer,
  outlineLayer,
  findingLayer,
  noteLayer,
  commonLayer,
  keptLayer,
  confirmedLayer
] as const;

type BodyOf<K> = K extends LayerKind<string, infer Body> ? Body : never;
type KindNamed<Name> = Extract<(typeof layerKinds)[number], { kind: Name }>;
export type LayerName = (typeof layerKinds)[number]['kind'];
export type LayerBody<Name extends LayerName> = BodyOf<KindNamed<Name>>;
export type AnyLayerKind = LayerKind<LayerName, unknown>;

const byName = new Map<string, AnyLayerKind>(
  layerKinds.map((kind): [string, AnyLayerKind] => [kind.kind, kind as unknown as AnyLayerKind])
);

/** @throws Unreadable for a kind that this program does not know */
export function layerKindOf(name: string): AnyLayerKind {
  const kind = byName.get(name);
  if (!kind) throw new Unreadable('What is on a picture', `no kind is called ${name}`);
  return kind;
}

export const isLayerName = (name: string): name is LayerName => byName.has(name);

/** A stored body as its kind has it today. @throws Unreadable when it can't be */
export const readLayer = (kind: string, version: number, body: unknown): unknown =>
  readVersioned(`What is on a picture (${kind})`, layerKindOf(kind), version, body);
