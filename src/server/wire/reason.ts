const MOST_LENGTH = 300;

/** Where APIs say in JSON what is wrong: problem details (RFC 9457) and what is usual beside them. */
const NAMES = ["problem", "detail", "message", "error_description", "error", "errors", "title", "reason"] as const;

/** What an answer says is wrong, as a text of the site’s own; `null` where it says nothing. */
export function reasonIn(text: string, type: string | null): string | null {
  const trimmed = text.trim();
  if (trimmed === "") return null;
  try {
    return shortened(reasonOf(JSON.parse(trimmed)));
  } catch {
    // A page for people says what is wrong in its title at best.
    const isHtml = (type ?? "").includes("html") || trimmed.startsWith("<");
    const title = /<title[^>]*>([^<]*)/i.exec(trimmed)?.[1]?.trim();
    return shortened(isHtml ? (title ?? null) : trimmed);
  }
}

/** What a part of an answer says is wrong. */
export function reasonOf(value: unknown): string | null {
  if (typeof value === "string") return value.trim() || null;
  if (Array.isArray(value)) {
    const reasons = value.map(reasonOf).filter((own) => own !== null);
    return reasons.length === 0 ? null : reasons.join("; ");
  }
  if (typeof value !== "object" || value === null) return null;
  for (const name of NAMES) {
    const found = reasonOf((value as Record<string, unknown>)[name]);
    if (found !== null) return found;
  }
  return null;
}

function shortened(text: string | null): string | null {
  if (text === null) return null;
  return text.length > MOST_LENGTH ? `${text.slice(0, MOST_LENGTH)} …` : text;
}
