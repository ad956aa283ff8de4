import { type Answer } from "./answer";

/** An answer that says in JSON what is wrong (RFC 9457). */
export function problem(
  status: number,
  title: string,
  detail: string,
  headers: Readonly<Record<string, string>> = {},
): Answer {
  return {
    status,
    headers: { "content-type": "application/problem+json", ...headers },
    body: JSON.stringify({ type: "about:blank", title, status, detail }),
  };
}

export function jsonAnswer(value: unknown, headers: Readonly<Record<string, string>> = {}, status = 200): Answer {
  return { status, headers: { "content-type": "application/json", ...headers }, body: JSON.stringify(value) };
}
