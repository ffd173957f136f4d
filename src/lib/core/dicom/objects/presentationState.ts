import type { Notation } from '../../anatomy/teeth';
import type { PictureLayers } from '../../picture/pictureLayers';
import { layerKindOf } from '../../picture/layers/all';
import { readingsOf, wordsOf } from '../../picture/readings';
import { type Shape, segmentsOf } from '../../picture/drawing';
import { type Crop, cropCorners, partAround } from '../../picture/layers/crop/crop';
import {
  type Orientation,
  type Part,
  type Point,
  orientedSize,
  straight,
  toImage,
  toOriented,
  upright
} from '../../raster/orientation';
import type { Attributes, Dataset } from '../dataset';
import { carriedElements } from '../carried';
import { dataset, withElements } from '../dataset';
import { commonAttributes } from './common';
import type { ObjectFacts } from './objectFacts';
import { pixelAspectRatio } from './spacingAttributes';
import { srgbProfile } from './srgbProfile';

/** Grayscale and Color Softcopy Presentation State (PS3.3 A.33.1, A.33.2). */
export const presentationStateClassUids = {
  grey: '1.2.840.10008.5.1.4.1.1.11.1',
  colour: '1.2.840.10008.5.1.4.1.1.11.2'
} as const;
export const isPresentationState = (sopClass: string): boolean =>
  Object.values<string>(presentationStateClassUids).includes(sopClass);

const graphicLayer = 'READINGS';

export interface PresentationWish {
  facts: ObjectFacts;
  layers: PictureLayers;
  /** Of the picture's own object. */
  sopClassUid: string;
  /** The state's own series and instance, and when and by whom it was made. */
  state: {
    seriesUid: string;
    instanceUid: string;
    number: number;
    date: string;
    time: string;
    creator: string;
  };
  /** How places are written. */
  notation: Notation;
}

/**
 * How a picture was seen and what was drawn on it, as a Grayscale or a Color Softcopy Presentation State. Each layer says by
 * itself what it changes; drawings are polylines in pixels of the original. Of colours the standard tells no window, but
 * what they are.
 */
export function presentationStateDataset({
  facts,
  layers,
  sopClassUid,
  state,
  notation
}: PresentationWish): Dataset {
  const { instance, series } = facts;
  const reference = { ReferencedSOPClassUID: sopClassUid, ReferencedSOPInstanceUID: instance.uid };
  const grey = facts.pixels.channels === 1;
  const said = (grey ? (['look', 'orientation'] as const) : (['orientation'] as const)).map((kind) =>
    layers[kind] === null ? {} : layerKindOf(kind).presentation!(layers[kind])
  );
  const turned: Attributes = Object.assign({ ImageRotation: 0, ImageHorizontalFlip: 'N' }, ...said);
  const pixelAspect = facts.scale
    ? facts.scale.mmPerPixelY / facts.scale.mmPerPixelX
    : (facts.pixels.pixelAspect ?? 1);
  const graphics = readingsOf(layers, facts.scale, pixelAspect)
    .filter(({ note }) => !note.hidden)
    .map((reading) => {
      const { item } = reading;
      const placed = layerKindOf(item.kind).placed!;
      const { shapes, wordsAt } = placed.drawn(item.body, pixelAspect);
      return annotation(shapes, wordsAt, wordsOf(reading, notation), reference);
    });
  const standard = dataset({
    ...commonAttributes(facts, presentationStateClassUids[grey ? 'grey' : 'colour'], 'PR'),
    SOPInstanceUID: state.instanceUid,
    SeriesInstanceUID: state.seriesUid,
    SeriesNumber: 900,
    SeriesDescription: 'How it was seen and measured',
    InstanceNumber: state.number,
    Laterality: '',
    ContentDate: undefined,
    ContentTime: undefined,
    PresentationCreationDate: state.date,
    PresentationCreationTime: state.time,
    ContentLabel: 'YONDER_TRAY',
    ContentDescription: 'Look and readings',
    ContentCreatorName: state.creator,
    ReferencedSeriesSequence: [{ SeriesInstanceUID: series.uid, ReferencedImageSequence: [reference] }],
    DisplayedAreaSelectionSequence: [
      {
        ReferencedImageSequence: [reference],
        DisplayedAreaTopLeftHandCorner: corner(facts, layers, false),
        DisplayedAreaBottomRightHandCorner: corner(facts, layers, true),
        PresentationSizeMode: 'SCALE TO FIT',
        ...aspect(facts)
      }
    ],
    ...(grey ? { PresentationLUTShape: 'IDENTITY' } : { ICCProfile: srgbProfile(), ColorSpace: 'SRGB' }),
    ...turned,
    ...(graphics.length > 0
      ? {
          GraphicAnnotationSequence: graphics,
          GraphicLayerSequence: [{ GraphicLayer: graphicLayer, GraphicLayerOrder: 1 }]
        }
      : {})
  });
  return withElements(standard, carriedElements(layers));
}

/** The stored pixel, counted from 1, that is seen at the top left or at the bottom right of what is shown. */
function corner(facts: ObjectFacts, layers: PictureLayers, far: boolean): [number, number] {
  // Pixels are counted, whatever their shape.
  const { width, height } = facts.pixels;
  const pixels = { width, height };
  const orientation = straight(layers.orientation ?? upright);
  const shown = shownPart(facts, layers.crop, orientation);
  const seen = far
    ? { x: shown.left + shown.width - 0.5, y: shown.top + shown.height - 0.5 }
    : { x: shown.left + 0.5, y: shown.top + 0.5 };
  const { x, y } = toImage(seen, pixels, orientation);
  return [Math.floor(x) + 1, Math.floor(y) + 1];
}

/** What is shown of it, in pixels as they are turned; of a tilted picture the rectangle around that. */
function shownPart({ pixels }: ObjectFacts, crop: Crop | null, orientation: Orientation): Part {
  const { width, height } = pixels;
  const size = orientedSize({ width, height }, orientation);
  const corners =
    crop && cropCorners(crop, pixels).map((at) => toOriented(at, { width, height }, orientation));
  return (corners && partAround(corners, size)) ?? { left: 0, top: 0, ...size };
}

/** The displayed area has to say how wide a pixel is: in mm where that is known, else as a ratio. */
function aspect({ scale, pixels }: ObjectFacts): Attributes {
  if (!scale) return { PresentationPixelAspectRatio: pixelAspectRatio(pixels) ?? [1, 1] };
  return { PresentationPixelSpacing: [scale.mmPerPixelY, scale.mmPerPixelX] };
}

function annotation(shapes: readonly Shape[], at: Point, words: string, reference: Attributes): Attributes {
  return {
    ReferencedImageSequence: [reference],
    GraphicLayer: graphicLayer,
    GraphicObjectSequence: shapes.length === 0 ? undefined : shapes.map(polyline),
    TextObjectSequence:
      words === ''
        ? undefined
        : [
            {
              UnformattedTextValue: words,
              AnchorPointAnnotationUnits: 'PIXEL',
              AnchorPoint: [at.x, at.y],
              AnchorPointVisibility: 'N'
            }
          ]
  };
}

function polyline(shape: Shape): Attributes {
  const segments = segmentsOf(shape);
  const points = [segments[0][0], ...segments.map(([, to]) => to)];
  return {
    GraphicAnnotationUnits: 'PIXEL',
    GraphicDimensions: 2,
    NumberOfGraphicPoints: points.length,
    GraphicData: points.flatMap(({ x, y }) => [x, y]),
    GraphicType: 'POLYLINE',
    GraphicFilled: 'N'
  };
}
