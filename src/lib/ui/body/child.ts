import { todayAtClinic } from '../clock';

/** Below this age there may be milk teeth. */
const milkTeethYears = 14;

export const isChild = (birthDate: string | null): boolean => {
  if (!birthDate) return false;
  const [year, ...rest] = birthDate.split('-');
  return [String(Number(year) + milkTeethYears), ...rest].join('-') > todayAtClinic();
};
