/** The forms that a set of redirects is written in. */
export const REDIRECT_FORMS = ["jsonl", "csv", "nginx", "apache", "plain"] as const;
export type RedirectForm = (typeof REDIRECT_FORMS)[number];
