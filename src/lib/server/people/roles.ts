/** What somebody is at a clinic. */
export const roles = ['assistant', 'clinician', 'front-desk', 'administrator'] as const;
export type Role = (typeof roles)[number];

export const roleWords: Record<Role, string> = {
  assistant: 'assistant',
  clinician: 'clinician',
  'front-desk': 'front desk',
  administrator: 'administrator'
};

/** Which roles may do what. */
export const permissions = {
  'view charts': ['assistant', 'clinician', 'front-desk', 'administrator'],
  acquire: ['assistant', 'clinician'],
  'lay patterns': ['assistant', 'clinician', 'administrator'],
  'write guides': ['clinician', 'administrator'],
  'enter patients': ['assistant', 'clinician', 'front-desk'],
  'join charts': ['clinician', 'front-desk', 'administrator'],
  'write templates': ['assistant', 'clinician', 'administrator'],
  'write letters': ['assistant', 'clinician', 'front-desk'],
  'write stories': ['assistant', 'clinician', 'front-desk'],
  'bring in files': ['assistant', 'clinician', 'front-desk'],
  'change pictures': ['assistant', 'clinician'],
  confirm: ['clinician'],
  'change categories': ['assistant', 'clinician', 'administrator'],
  'delete pictures': ['assistant', 'clinician', 'administrator'],
  link: ['assistant', 'clinician', 'front-desk'],
  send: ['assistant', 'clinician', 'front-desk'],
  'change settings': ['administrator'],
  'read a record': ['clinician', 'administrator'],
  'read the audit': ['administrator']
} satisfies Record<string, Role[]>;
export type Permission = keyof typeof permissions;

export function may(role: Role, permission: Permission): boolean {
  return (permissions[permission] as Role[]).includes(role);
}
