/** Tells this window's requests from another's: a newer one takes an older one's place only in the same window. */
export const CLIENT = Math.random().toString(36).slice(2);
