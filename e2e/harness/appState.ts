/** Stands for the page where code of the interface is tested without one: nobody is signed in. */
export const page: { data: { who: Record<string, unknown> | null } } = { data: { who: null } };
