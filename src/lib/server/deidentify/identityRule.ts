export type Identity = 'identified' | 'deidentified';

/** Under which identity something leaves; the clinic's first rule where none is named. */
export interface IdentityRule {
  identity: Identity;
  ruleId: string | null;
}
