/** Somebody of the clinic, as the settings show them. */
export interface StaffMember {
  userId: string;
  name: string;
  signInName: string;
  role: 'assistant' | 'clinician' | 'front-desk' | 'administrator';
  roleWords: string;
  /** Kept out. */
  disabled: boolean;
  /** A link to choose a password is under way. */
  invited: boolean;
  /** In how many places they are signed in; null where that is not told. */
  sessions: number | null;
  lastAt: string | null;
}
