/** The forms that a set of redirects is written in. */
export const REDIRECT_FORMS = ["jsonl", "csv", "nginx", "apache", "plain"] as const;
export type RedirectForm = (typeof REDIRECT_FORMS)[number];

/** How long ago redirects were made: whenever, within a week or a month, or more than a year ago. */
export const REDIRECT_AGES = ["any", "week", "month", "older"] as const;
export type RedirectAge = (typeof REDIRECT_AGES)[number];
