/** What can be found of a link inside the site. */
export const LINK_FINDINGS = ["broken", "redirected", "not-indexed", "says-nothing", "same-text"] as const;
export type LinkFinding = (typeof LINK_FINDINGS)[number];

/** The bit of a finding in what was found of a link. */
export function linkBit(finding: LinkFinding): number {
  return 1 << LINK_FINDINGS.indexOf(finding);
}

/** Those of the findings that bits tell. */
export function linkFindingsOf(bits: number): LinkFinding[] {
  return LINK_FINDINGS.filter((finding) => (bits & linkBit(finding)) !== 0);
}

/** Texts that say nothing of where a link leads, in English, German, French, Spanish and Dutch; a site may have its own list. */
export const TEXTS_THAT_SAY_NOTHING: readonly string[] = [
  ...["click here", "click", "here", "read more", "more", "learn more", "this", "this page", "link", "see here", "go"],
  ...["hier klicken", "klicken sie hier", "hier", "mehr", "mehr lesen", "weiterlesen", "mehr erfahren"],
  ...["cliquez ici", "ici", "lire la suite", "en savoir plus", "plus"],
  ...["haz clic aquí", "aquí", "leer más", "más", "ver más"],
  ...["klik hier", "lees meer", "lees verder", "meer"],
];
