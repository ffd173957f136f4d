import type { TestSpecification } from 'vitest/node';
import { BaseSequencer } from 'vitest/node';

/** Files that take long whatever their size: what is begun last should be short, so that both cores end together. */
const long = [
  'e2e/access',
  'e2e/kill',
  'e2e/chair',
  'e2e/guides',
  'e2e/measuring',
  'e2e/devices',
  'e2e/beside',
  'e2e/arrivals',
  'e2e/visit',
  'e2e/trouble',
  'e2e/dispatch',
  'e2e/chart',
  'e2e/scaling',
  'e2e/today',
  'migrations.test',
  'dispatch/packing.test',
  'markers/otherDetectors.test',
  'cornea/readTake.test'
];

export class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const rank = ({ moduleId }: TestSpecification) => {
      const at = long.findIndex((each) => moduleId.includes(each));
      return at < 0 ? long.length : at;
    };
    return sorted.toSorted((a, b) => rank(a) - rank(b));
  }
}
