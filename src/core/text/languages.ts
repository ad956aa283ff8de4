/** The languages that keywords and slugs can be read in: BCP 47 tags, and what they are called. */
export const LANGUAGES = [
  { tag: "en", label: "English" },
  { tag: "de", label: "German" },
  { tag: "fr", label: "French" },
  { tag: "es", label: "Spanish" },
  { tag: "it", label: "Italian" },
  { tag: "nl", label: "Dutch" },
  { tag: "pt", label: "Portuguese" },
  { tag: "da", label: "Danish" },
  { tag: "sv", label: "Swedish" },
  { tag: "nb", label: "Norwegian" },
  { tag: "fi", label: "Finnish" },
] as const;

export type LanguageTag = (typeof LANGUAGES)[number]["tag"];
