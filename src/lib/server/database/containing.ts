/** A pattern for `like` that finds a text anywhere: what is a wild card in patterns stands for itself. */
export const containing = (text: string): string => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
