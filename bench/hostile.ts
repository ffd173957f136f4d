import { readDamaged } from '../src/lib/core/arrivals/hostile.test-data';

const files = 20_000;

/** Files damaged in every way, and how many of them were not read or refused as they should be. */
export function studyHostile(): void {
  const { read, wrong } = readDamaged(files, 7);
  const verdict = wrong.length === 0 ? 'reached' : 'NOT reached';
  console.log(
    [
      `${files} damaged files`,
      `  ${read} read as far as they go, ${files - read} refused; ${wrong.length} otherwise (none asked: ${verdict})`,
      ...wrong.slice(0, 5).map((each) => `  ${each}`)
    ].join('\n')
  );
}
