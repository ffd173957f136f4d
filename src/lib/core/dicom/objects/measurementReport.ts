import { type Code, dcm, keyedCode, localCode, sct } from '../../anatomy/code';
import type { Scale } from '../../calibration/scale';
import type { PlacedPoint } from '../../calibration/scale';
import type { Unit, Value } from '../../measurement/measured';
import { layerKindOf } from '../../picture/layers/all';
import { valuesOf } from '../../picture/readings';
import type { PictureItem } from '../../picture/pictureLayers';
import type { Point } from '../../raster/orientation';
import { type Attributes, type Dataset, dataset } from '../dataset';
import { codeItem } from './anatomyAttributes';
import { commonAttributes } from './common';
import type { ObjectFacts } from './objectFacts';

export const comprehensiveReportClassUid = '1.2.840.10008.5.1.4.1.1.88.33';

const units: Record<Unit, [value: string, meaning: string]> = {
  mm: ['mm', 'millimeter'],
  px: ['{pixels}', 'pixels'],
  deg: ['deg', 'degree'],
  mm2: ['mm2', 'square millimeter'],
  px2: ['{pixels2}', 'square pixels'],
  '%': ['%', 'percent'],
  '': ['1', 'no units']
};

/** One view of a guide as a report tells it: its landmarks on the picture, and what follows from them alone. */
export interface GuideInReport {
  guide: { key: string; version: number; name: string };
  view: { key: string; name: string };
  trackingUid: string;
  landmarks: { key: string; name: string; point: PlacedPoint }[];
  /** Each with the landmarks that it is inferred from, in image pixels. */
  results: { key: string; name: string; value: Value; from: Point[] }[];
  /** What follows from landmarks on other pictures too: points of each picture, this one with them. */
  across?: { key: string; name: string; value: Value; from: { image: ImageInReport; points: Point[] }[] }[];
}

/** A picture that a report points at. */
export interface ImageInReport {
  seriesUid: string;
  sopClassUid: string;
  instanceUid: string;
}

/** In what words a report says which guide's landmarks these are; what follows is guide, version and view by their keys. */
export const guideMeaning = 'Guide, its version and view';

export interface ReportWish {
  facts: ObjectFacts;
  sopClassUid: string;
  /** Each with its own name if it has one, the scale that holds for it and a UID by which it is known again. */
  readings: { item: PictureItem; name?: string; scale: Scale | null; trackingUid: string }[];
  guides?: GuideInReport[];
  report: {
    seriesUid: string;
    instanceUid: string;
    number: number;
    date: string;
    time: string;
    observer: string;
  };
}

const item = (relation: string, type: string, name: Code | null, rest: Attributes): Attributes => ({
  RelationshipType: relation,
  ValueType: type,
  ...(name ? { ConceptNameCodeSequence: [codeItem(name)] } : {}),
  ...rest
});
const code = (relation: string, name: Code, value: Code) =>
  item(relation, 'CODE', name, { ConceptCodeSequence: [codeItem(value)] });
const container = (relation: string, name: Code, content: Attributes[]) =>
  item(relation, 'CONTAINER', name, { ContinuityOfContent: 'SEPARATE', ContentSequence: content });

/** The readings of one picture as a structured report (PS3.16 TID 1500, as Comprehensive SR). */
export function measurementReportDataset({
  facts,
  sopClassUid,
  readings,
  guides = [],
  report
}: ReportWish): Dataset {
  const { study, series, instance } = facts;
  const own: ImageInReport = { seriesUid: series.uid, sopClassUid, instanceUid: instance.uid };
  const reference = referenceTo(own);
  const beside = guides.flatMap(({ across = [] }) =>
    across.flatMap(({ from }) => from.map(({ image }) => image))
  );
  const images = [...new Map([own, ...beside].map((image) => [image.instanceUid, image])).values()];
  const seriesOf = [...new Set(images.map(({ seriesUid }) => seriesUid))];
  const content = [
    item('HAS CONCEPT MOD', 'CODE', dcm('121049', 'Language of Content Item and Descendants'), {
      ConceptCodeSequence: [{ CodeValue: 'en', CodingSchemeDesignator: 'RFC5646', CodeMeaning: 'English' }]
    }),
    code('HAS OBS CONTEXT', dcm('121005', 'Observer Type'), dcm('121006', 'Person')),
    item('HAS OBS CONTEXT', 'PNAME', dcm('121008', 'Person Observer Name'), { PersonName: report.observer }),
    code('HAS CONCEPT MOD', dcm('121058', 'Procedure reported'), sct('363679005', 'Imaging procedure')),
    container('CONTAINS', dcm('111028', 'Image Library'), [
      container(
        'CONTAINS',
        dcm('126200', 'Image Library Group'),
        images.map((image) =>
          item('CONTAINS', 'IMAGE', null, { ReferencedSOPSequence: [referenceTo(image)] })
        )
      )
    ]),
    container('CONTAINS', dcm('126010', 'Imaging Measurements'), [
      ...readings.map((reading, i) => group(reading, i, reference)),
      ...guides.map((guide) => guideGroup(guide, reference))
    ])
  ];
  return dataset({
    ...commonAttributes(facts, comprehensiveReportClassUid, 'SR'),
    SOPInstanceUID: report.instanceUid,
    SeriesInstanceUID: report.seriesUid,
    SeriesNumber: 901,
    SeriesDescription: 'Readings',
    InstanceNumber: report.number,
    ContentDate: report.date,
    ContentTime: report.time,
    ReferencedPerformedProcedureStepSequence: [],
    PerformedProcedureCodeSequence: [],
    CompletionFlag: 'PARTIAL',
    VerificationFlag: 'UNVERIFIED',
    CurrentRequestedProcedureEvidenceSequence: [
      {
        StudyInstanceUID: study.uid,
        ReferencedSeriesSequence: seriesOf.map((seriesUid) => ({
          SeriesInstanceUID: seriesUid,
          ReferencedSOPSequence: images.filter((image) => image.seriesUid === seriesUid).map(referenceTo)
        }))
      }
    ],
    ValueType: 'CONTAINER',
    ConceptNameCodeSequence: [codeItem(dcm('126000', 'Imaging Measurement Report'))],
    ContinuityOfContent: 'SEPARATE',
    ContentTemplateSequence: [{ MappingResource: 'DCMR', TemplateIdentifier: '1500' }],
    ContentSequence: content
  });
}

const referenceTo = ({ sopClassUid, instanceUid }: ImageInReport): Attributes => ({
  ReferencedSOPClassUID: sopClassUid,
  ReferencedSOPInstanceUID: instanceUid
});

function group(
  { item: { kind, body }, name, scale, trackingUid }: ReportWish['readings'][number],
  i: number,
  reference: Attributes
): Attributes {
  const { measure, words } = layerKindOf(kind);
  if (!measure) throw new RangeError(`${kind} gives no value to report`);
  const { graphicType, points } = measure.coordinates(body);
  const values = valuesOf(kind, body, scale);
  const placement = Math.max(
    ...layerKindOf(kind)
      .placed!.pointsOf(body)
      .map((each) => each.uncertaintyPx)
  );
  return container('CONTAINS', dcm('125007', 'Measurement Group'), [
    item('HAS OBS CONTEXT', 'TEXT', dcm('112039', 'Tracking Identifier'), {
      TextValue: name || `${words} ${i + 1}`
    }),
    item('HAS OBS CONTEXT', 'UIDREF', dcm('112040', 'Tracking Unique Identifier'), { UID: trackingUid }),
    ...values.map(({ concept, value }) =>
      item('CONTAINS', 'NUM', concept, {
        ...numeric(value.value, value.unit),
        ContentSequence: [
          ...uncertainties(value, placement),
          item('INFERRED FROM', 'SCOORD', null, coordinates(graphicType, points, reference))
        ]
      })
    )
  ]);
}

/** How far a value and the points that it is inferred from may be off. */
const uncertainties = (value: Value, placementPx: number): Attributes[] => [
  item(
    'HAS PROPERTIES',
    'NUM',
    localCode('Expanded uncertainty, k = 2'),
    numeric(value.plusMinus, value.unit)
  ),
  item(
    'HAS PROPERTIES',
    'NUM',
    localCode('Placement uncertainty of points, one standard deviation'),
    numeric(placementPx, 'px')
  )
];
const coordinates = (graphicType: string, points: readonly Point[], reference: Attributes): Attributes => ({
  GraphicType: graphicType,
  GraphicData: flat(points),
  ContentSequence: [item('SELECTED FROM', 'IMAGE', null, { ReferencedSOPSequence: [reference] })]
});

const inferred = (points: readonly Point[], reference: Attributes): Attributes =>
  item(
    'INFERRED FROM',
    'SCOORD',
    null,
    coordinates(points.length === 1 ? 'POINT' : 'MULTIPOINT', points, reference)
  );

function guideGroup(
  { guide, view, trackingUid, landmarks, results, across = [] }: GuideInReport,
  reference: Attributes
): Attributes {
  const placement = Math.max(...landmarks.map(({ point }) => point.uncertaintyPx));
  const told = ({ key, name, value }: { key: string; name: string; value: Value }, from: Attributes[]) =>
    item('CONTAINS', 'NUM', keyedCode(`${guide.key} ${key}`, name), {
      ...numeric(value.value, value.unit),
      ContentSequence: [...uncertainties(value, placement), ...from]
    });
  return container('CONTAINS', dcm('125007', 'Measurement Group'), [
    item('HAS OBS CONTEXT', 'TEXT', dcm('112039', 'Tracking Identifier'), {
      TextValue: `${guide.name}: ${view.name}`
    }),
    item('HAS OBS CONTEXT', 'UIDREF', dcm('112040', 'Tracking Unique Identifier'), { UID: trackingUid }),
    item('CONTAINS', 'TEXT', localCode(guideMeaning), {
      TextValue: `${guide.key}/${guide.version}/${view.key}`
    }),
    ...landmarks.map(({ key, name, point }) =>
      item(
        'CONTAINS',
        'SCOORD',
        keyedCode(`${guide.key} ${view.key} ${key}`, name),
        coordinates('POINT', [point], reference)
      )
    ),
    ...results.map(({ from, ...result }) => told(result, [inferred(from, reference)])),
    ...across.map(({ from, ...result }) =>
      told(
        result,
        from.map(({ image, points }) => inferred(points, referenceTo(image)))
      )
    )
  ]);
}

const flat = (points: readonly Point[]) => points.flatMap(({ x, y }) => [x, y]);

function numeric(value: number, unit: Unit): Attributes {
  const [symbol, meaning] = units[unit];
  return {
    MeasuredValueSequence: [
      {
        NumericValue: value,
        MeasurementUnitsCodeSequence: [
          { CodeValue: symbol, CodingSchemeDesignator: 'UCUM', CodeMeaning: meaning }
        ]
      }
    ]
  };
}
