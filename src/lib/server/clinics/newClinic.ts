import type { Tx } from '../database/connection';
import { seedRules } from '../deidentify/rules';
import { seedShippedPatterns } from '../trays/patterns';

/** What every clinic has from its first day, and gets when the product ships more of it. Safe to repeat. */
export async function seedClinic(tx: Tx): Promise<void> {
  await seedShippedPatterns(tx);
  await seedRules(tx);
}
