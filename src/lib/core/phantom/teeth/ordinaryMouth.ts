import { type Tooth, permanentTeeth, toothKind } from '../../anatomy/teeth';
import { seededRandom } from '../../random';
import type { Condition, MouthWish } from './dentition';
import { placeOf } from './sizes';

/** A mouth as one meets it: some fillings, a little decay, perhaps a crown, wisdom teeth there or not. */
export function ordinaryMouth(seed: number): MouthWish {
  const random = seededRandom(seed * 17 + 3);
  const conditions: Partial<Record<Tooth, Condition[]>> = {};
  const any = <T>(of: readonly T[]): T => of[Math.floor(random.uniform() * of.length)];
  for (const tooth of permanentTeeth) {
    const luck = random.uniform();
    if (placeOf(tooth) === 8 || toothKind(tooth) === 'incisor' || toothKind(tooth) === 'canine') continue;
    if (luck < 0.2)
      conditions[tooth] = [{ kind: 'filling', at: any(['middle', 'mesial', 'distal'] as const) }];
    else if (luck < 0.29) conditions[tooth] = [{ kind: 'decay', at: any(['mesial', 'distal'] as const) }];
    else if (luck < 0.32) conditions[tooth] = [{ kind: 'root filling', shortMm: 0.8 }, { kind: 'crown' }];
  }
  const missing = [18, 28, 38, 48].filter(() => random.uniform() < 0.6);
  return { seed, conditions, missing, boneLossMm: 1.4 * random.uniform() ** 2 };
}
