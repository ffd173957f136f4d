import { z } from 'zod';
import { type LeavingRule, leavingRule, usualRule } from '../../core/deidentify/rule';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { LeavingRuleRow } from './ruleModel';

export interface NamedRule {
  ruleId: string;
  name: string;
  rule: LeavingRule;
}

/** A rule as pictures leave by it. */
export interface RuleInUse extends NamedRule {
  purpose: string;
}

const shipped: { name: string; rule: LeavingRule }[] = [
  { name: 'Without the name', rule: usualRule },
  {
    name: 'For a study',
    rule: {
      ...usualRule,
      characteristics: true,
      device: true,
      words: 'cleaned',
      structured: 'cleaned',
      graphics: 'cleaned'
    }
  },
  { name: 'For teaching', rule: { ...usualRule, dates: 'removed', graphics: 'cleaned' } }
];

/** The rules every clinic begins with. What it made of them since stays. The first goes on with the pseudonyms of before. */
export async function seedRules(tx: Tx): Promise<void> {
  if ((await LeavingRuleRow.count(within(tx))) > 0) return;
  for (const [position, { name, rule }] of shipped.entries()) {
    const ruleId = newId();
    await LeavingRuleRow.create(
      {
        clinicId: tx.clinicId,
        ruleId,
        name,
        version: leavingRule.version,
        body: rule,
        purpose: position === 0 ? '' : ruleId,
        position
      },
      within(tx)
    );
  }
}

const inUse = ({ ruleId, name, version, body, purpose }: LeavingRuleRow): RuleInUse => ({
  ruleId,
  name,
  rule: readVersioned('A de-identification rule', leavingRule, version, body),
  purpose
});

export async function rulesOf(tx: Tx): Promise<NamedRule[]> {
  const rows = await LeavingRuleRow.findAll({
    where: { droppedAt: null },
    order: [
      ['position', 'asc'],
      ['name', 'asc']
    ],
    ...within(tx)
  });
  return rows.map((row) => {
    const { ruleId, name, rule } = inUse(row);
    return { ruleId, name, rule };
  });
}

export const rules = (caller: Caller): Promise<NamedRule[]> => inClinic(caller.clinicId, rulesOf);

/** A rule by its id, also one that was dropped since; the clinic's first where none is named. */
export async function ruleInUse(tx: Tx, ruleId: string | null): Promise<RuleInUse> {
  const row = ruleId
    ? await LeavingRuleRow.findByPk(ruleId, within(tx))
    : await LeavingRuleRow.findOne({ where: { purpose: '' }, ...within(tx) });
  if (!row) throw notFound('This de-identification rule');
  return inUse(row);
}

export const ruleWish = z.strictObject({
  ruleId: z.uuid().optional(),
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  rule: leavingRule.schema as z.ZodType<LeavingRule>
});
const mostRules = 40;

/** Makes a rule, or changes one. What left by it before stays as it left. */
export async function keepRule(
  caller: Caller,
  key: string,
  { ruleId, name, rule }: z.infer<typeof ruleWish>
): Promise<{ ruleId: string }> {
  await demand(caller, 'change settings', 'rules');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const named = await LeavingRuleRow.findOne({ where: { name, droppedAt: null }, ...within(tx) });
      if (named && named.ruleId !== ruleId)
        throw new Problem(
          'name-taken',
          `There is a rule called ${name} already.`,
          'Give this one another name.',
          409
        );
      const kept = { name, version: leavingRule.version, body: rule };
      let id = ruleId;
      if (id) {
        const known = await LeavingRuleRow.findOne({ where: { ruleId: id, droppedAt: null }, ...within(tx) });
        if (!known) throw notFound('This rule');
        await known.update(kept, within(tx));
      } else {
        const position = await LeavingRuleRow.count(within(tx));
        if (position >= mostRules)
          throw new Problem(
            'too-many-rules',
            `The clinic has ${mostRules} rules already.`,
            'Change one of them instead.',
            409
          );
        id = newId();
        await LeavingRuleRow.create(
          { clinicId: tx.clinicId, ruleId: id, purpose: id, position, ...kept },
          within(tx)
        );
      }
      await writeAudit(tx, caller, 'setting changed', id, { rule: name, ...rule });
      return { ruleId: id };
    })
  );
}

/** Takes a rule out of use. Pseudonyms given by it can still be looked up. The first one stays: something must hold. */
export async function dropRule(caller: Caller, key: string, ruleId: string): Promise<object> {
  await demand(caller, 'change settings', 'rules');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await LeavingRuleRow.findOne({ where: { ruleId, droppedAt: null }, ...within(tx) });
      if (!row) throw notFound('This rule');
      if (row.purpose === '')
        throw new Problem(
          'first-rule',
          'The first rule holds wherever no other is chosen.',
          'Change it instead of dropping it.',
          409
        );
      await row.update({ droppedAt: new Date() }, within(tx));
      await writeAudit(tx, caller, 'setting changed', ruleId, { rule: 'dropped' });
      return {};
    })
  );
}
