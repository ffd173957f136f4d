export type Identity = 'identified' | 'deidentified';

/** Under which identity something leaves; the clinic's first rule where none is named. */
export interface IdentityRule {
  identity: Identity;
  ruleId: string | null;
  /** What stands for name and number instead of a pseudonym of the rule's, and for what it is. */
  as?: LeavesAs;
}

export interface LeavesAs {
  name: string;
  purpose: string;
}
