import type { StudyInstance } from '../fhir/imagingStudy';
import { type Dataset, firstText } from './dataset';

/** What an object is known by outside. */
export const instanceUids = (set: Dataset): StudyInstance => ({
  studyUid: firstText(set, 'StudyInstanceUID')!,
  seriesUid: firstText(set, 'SeriesInstanceUID')!,
  instanceUid: firstText(set, 'SOPInstanceUID')!,
  sopClass: firstText(set, 'SOPClassUID')!,
  modality: firstText(set, 'Modality') ?? 'OT'
});
