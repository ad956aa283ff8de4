import { pathParts } from "../core/addresses/path-form";
import { type Redirect, REDIRECT_STATUSES } from "../core/addresses/redirect";
import { type RedirectForm } from "../core/addresses/redirect-forms";
import { rawCsvLine } from "./csv-write";

/** What is written: rules of which each leads in one hop, and the pages that prefix ones would catch, which are to be left alone. */
export interface WrittenSet {
  readonly redirects: readonly Redirect[];
  readonly keeps: readonly string[];
}

/**
 * A set of redirects in one of its forms, piece by piece. Paths are in normal form: ASCII without white space, quotes or braces, so
 * that none can break out of its line; each form escapes what still means something in it.
 */
export function writeRedirects(form: RedirectForm, set: WrittenSet): Iterable<string> {
  return WRITERS[form](set);
}

const WRITERS: Readonly<Record<RedirectForm, (set: WrittenSet) => Iterable<string>>> = {
  jsonl: writeJsonLines,
  csv: writeCsv,
  nginx: writeNginx,
  apache: writeApache,
  plain: writePlain,
};

function* writeJsonLines({ redirects }: WrittenSet): Generator<string> {
  for (const { from, to, status, prefix } of redirects) yield `${JSON.stringify({ from, to, status, prefix })}\n`;
}

function* writeCsv({ redirects }: WrittenSet): Generator<string> {
  yield rawCsvLine(["from", "to", "status"]);
  for (const { from, to, status, prefix } of redirects)
    yield rawCsvLine([starred(from, prefix), to === "" ? "" : starred(to, prefix), status]);
}

/** A folder with its star; a star of a path itself is escaped where it would be read as one. */
function starred(path: string, prefix: boolean): string {
  return prefix ? `${path}*` : path.replace(/\/\*$/, "/%2A");
}

/** The plain text that static hosts read: `from to status`; `*` and `:name` mean something there. */
function* writePlain({ redirects, keeps }: WrittenSet): Generator<string> {
  const literal = (path: string) => path.replaceAll("*", "%2A").replaceAll("/:", "/%3A");
  for (const page of keeps) yield `${literal(page)} ${literal(page)} 200\n`;
  for (const { from, to, status, prefix } of inOrder(redirects)) {
    if (from.includes("?")) {
      yield `# Paths are not told by their query in this form; left out: ${from} ${to} ${status}\n`;
      continue;
    }
    const target = to === "" ? "/" : prefix ? `${literal(to)}:splat` : literalTarget(to, literal);
    yield `${literal(from)}${prefix ? "*" : ""} ${target} ${status}\n`;
  }
}

/** The colon behind a scheme is no name. */
function literalTarget(to: string, literal: (path: string) => string): string {
  return to.startsWith("/") ? literal(to) : to.replaceAll("*", "%2A");
}

/** Exact ones first, then the longest prefix. */
function inOrder(redirects: readonly Redirect[]): Redirect[] {
  return [...redirects].sort(
    (a, b) => Number(a.prefix) - Number(b.prefix) || (a.prefix ? b.from.length - a.from.length : 0),
  );
}

/** Whether a path reads the same however a request spells it once escapes are resolved: nothing in it is an escaped sign of its own. */
const PRINTABLE = /^(?:[A-Za-z0-9\-._~!$&'()*+,;=:@/]|%[89A-F][\dA-F])+$/;

function readsAsText(path: string): string | null {
  if (!PRINTABLE.test(path) || path.includes("//")) return null;
  try {
    const text = decodeURIComponent(path);
    return /[\s\p{C}]/u.test(text) ? null : text;
  } catch {
    return null;
  }
}

/** A regular expression for exactly one path as requests spell it; escapes may be in small letters. */
function pattern(path: string): string {
  return path
    .replace(/[.*+?^${}()|[\]\\]/g, "\\$&")
    .replace(/%([\dA-F])([\dA-F])/g, (_, a: string, b: string) => `%${eitherCase(a)}${eitherCase(b)}`);
}

function eitherCase(letter: string): string {
  return /\d/.test(letter) ? letter : `[${letter}${letter.toLowerCase()}]`;
}

/**
 * For nginx: maps for the `http` block, and behind them, as a comment, the lines for the `server` block. A map ignores the case of
 * its plain keys, so what is found is compared once more; prefix ones and paths with escaped signs are regular expressions.
 */
function* writeNginx({ redirects, keeps }: WrittenSet): Generator<string> {
  const { plain, special, prefixes, queries } = sorted(redirects, keeps);
  const dollar = redirects.some(({ to }) => to.includes("$"));
  yield "# Redirects for nginx. Include this file in the http block, and in the server block put the lines at its end.\n";
  yield `map_hash_max_size ${hashSize(plain.length)};\nmap_hash_bucket_size 4096;\n`;
  if (dollar) yield `geo $nine_lines_dollar { default "$"; }\n`;
  yield `map $request_uri $nine_lines_path { "~^(?<nl_path>[^?]*)" $nl_path; }\n`;
  yield `map $nine_lines_path $nine_lines_key { "~*%2f" ""; default $uri; }\n`;
  yield `map $nine_lines_key $nine_lines_found {\n  default "";\n`;
  for (const { text, rule } of plain) yield `  ${nginxText(text)} "${nginxValue(text)} ${nginxRule(rule)}";\n`;
  yield `}\nmap "$nine_lines_key $nine_lines_found" $nine_lines_exact {\n  default "";\n`;
  yield `  "~^(?<nl_key>\\S+) \\k<nl_key> (?<nl_rule>.*)$" $nl_rule;\n}\n`;
  yield `map $nine_lines_path $nine_lines_other {\n  default "";\n`;
  for (const { path, rule } of special) yield `  ${nginxText(`~^${pattern(path)}$`)} "${nginxRule(rule)}";\n`;
  for (const { from, to, status } of prefixes)
    yield `  ${nginxText(`~^${pattern(from)}(?<nl_rest>.*)$`)} "${status} ${to === "" ? "" : `${nginxValue(to)}$nl_rest`}";\n`;
  yield `}\nmap $request_uri $nine_lines_query {\n  default "";\n`;
  // A query that tells a path has been used up: the sign says that it does not go along.
  for (const { from, to, status } of queries)
    yield `  ${nginxText(`~^${pattern(from)}$`)} "${status} ${to === "" ? "" : `=${nginxValue(to)}`}";\n`;
  yield `}\nmap $nine_lines_exact $nine_lines_path_rule { "" $nine_lines_other; default $nine_lines_exact; }\n`;
  yield `map $nine_lines_query $nine_lines_rule { "" $nine_lines_path_rule; default $nine_lines_query; }\n`;
  yield `map $nine_lines_rule $nine_lines_fragment { default ""; "~^\\d+ [^?#]*(?<nl_fragment>#.*)$" $nl_fragment; }\n`;
  const statuses = REDIRECT_STATUSES.filter((status) => redirects.some((own) => own.status === status));
  for (const status of statuses) {
    const [plainName, queryName] = [`$nine_lines_${status}`, `$nine_lines_${status}_query`];
    if (status === 410) {
      yield `map $nine_lines_rule ${plainName} { default ""; "~^410" 1; }\n`;
      continue;
    }
    // A target with a query of its own keeps that one.
    yield `map $nine_lines_rule ${plainName} { default ""; "~^${status} (?<nl_to>[^=?#][^?#]*)(#.*)?$" $nl_to; }\n`;
    yield `map $nine_lines_rule ${queryName} { default ""; "~^${status} =(?<nl_used>.*)$" $nl_used; "~^${status} (?<nl_whole>[^#]*[?].*)$" $nl_whole; }\n`;
  }
  yield "#\n# In the server block:\n";
  for (const line of nginxSnippet(statuses)) yield `# ${line}\n`;
}

/** The lines that belong in the server block of nginx. */
export function nginxSnippet(statuses: readonly number[]): string[] {
  return statuses.flatMap((status) =>
    status === 410
      ? ["if ($nine_lines_410) { return 410; }"]
      : [
          `if ($nine_lines_${status}) { return ${status} $nine_lines_${status}$is_args$args$nine_lines_fragment; }`,
          `if ($nine_lines_${status}_query) { return ${status} $nine_lines_${status}_query; }`,
        ],
  );
}

type Rule = { readonly to: string; readonly status: number };
const STAYS: Rule = { to: "", status: 200 };

function sorted(redirects: readonly Redirect[], keeps: readonly string[]) {
  const plain: { text: string; rule: Rule }[] = [];
  const special: { path: string; rule: Rule }[] = [];
  const known = new Set<string>();
  const put = (path: string, rule: Rule) => {
    const text = readsAsText(path);
    // A map takes two keys that differ in case for one.
    if (text === null || known.has(text.toLowerCase())) special.push({ path, rule });
    else {
      known.add(text.toLowerCase());
      plain.push({ text, rule });
    }
  };
  for (const page of keeps) put(page, STAYS);
  const ordered = inOrder(redirects);
  for (const redirect of ordered) if (!redirect.prefix && !redirect.from.includes("?")) put(redirect.from, redirect);
  const queries = ordered.filter(({ from, prefix }) => !prefix && from.includes("?"));
  return { plain, special, prefixes: ordered.filter(({ prefix }) => prefix), queries };
}

function hashSize(count: number): number {
  return Math.max(2048, 2 ** Math.ceil(Math.log2(count + 1)) * 2);
}

/** A key of a map, in quotes. */
function nginxText(text: string): string {
  return `"${text.replaceAll("\\", "\\\\").replaceAll('"', '\\"')}"`;
}

/** A value of a map within quotes: a dollar would begin a variable. */
function nginxValue(text: string): string {
  return text.replaceAll("$", "${nine_lines_dollar}");
}

function nginxRule({ to, status }: Rule): string {
  return `${status} ${nginxValue(to)}`.trimEnd();
}

/** For Apache httpd: lines for the server’s or a virtual host’s configuration. */
function* writeApache({ redirects, keeps }: WrittenSet): Generator<string> {
  yield "# Redirects for Apache httpd 2.4, for the configuration of the server or a virtual host.\n";
  if (redirects.some(({ from }) => from.includes("%2F"))) yield "AllowEncodedSlashes NoDecode\n";
  yield "RewriteEngine On\n";
  for (const page of keeps) yield `RewriteRule "^${apachePattern(page)}$" "-" [END]\n`;
  const ordered = inOrder(redirects);
  // What has a query goes before the same path without one.
  ordered.sort((a, b) => Number(b.from.includes("?")) - Number(a.from.includes("?")));
  for (const { from, to, status, prefix } of ordered) {
    const { path, query } = pathParts(from);
    if (query !== "") yield `RewriteCond %{QUERY_STRING} "^${apachePattern(query.slice(1), true)}$"\n`;
    yield* prefix ? apachePrefix(path, to, status) : apacheExact(path, query, to, status);
  }
}

function* apachePrefix(path: string, to: string, status: number): Generator<string> {
  if (status === 410) {
    yield `RewriteRule "^${apachePattern(path)}" "-" [G]\n`;
    return;
  }
  // What was asked for as it came: escapes in it stay what they are.
  yield `RewriteCond %{THE_REQUEST} "^\\S+ ${apachePattern(path, true)}([^?\\s]*)"\n`;
  yield `RewriteRule "^" "${apacheTarget(to)}%1" [R=${status},END,NE]\n`;
}

function* apacheExact(path: string, query: string, to: string, status: number): Generator<string> {
  const rule = `RewriteRule "^${apachePattern(path)}$"`;
  if (status === 410) {
    yield `${rule} "-" [G]\n`;
    return;
  }
  const target = pathParts(to);
  if (query === "" && target.query === "" && target.fragment !== "") {
    // A query goes before the fragment.
    yield `RewriteCond %{QUERY_STRING} "."\n`;
    yield `${rule} "${apacheTarget(target.path)}?%{QUERY_STRING}${apacheTarget(target.fragment)}" [R=${status},END,NE]\n`;
  }
  const drops = (query !== "" || target.fragment !== "") && target.query === "";
  yield `${rule} "${apacheTarget(to)}" [R=${status},END,NE${drops ? ",QSD" : ""}]\n`;
}

/**
 * A path as a regular expression of plain letters only.
 *
 * @param isRaw whether it is compared with the request as it came, escapes and all; otherwise with what they stand for.
 */
function apachePattern(path: string, isRaw = false): string {
  return path.replace(/%([\dA-F]{2})|[^A-Za-z0-9/_~-]/g, (found, byte: string | undefined) => {
    // An escaped slash stays as it is.
    if (byte !== undefined && (isRaw || byte === "2F")) return `%${[...byte].map(eitherCase).join("")}`;
    return `\\x${byte ?? hex(found.charCodeAt(0))}`;
  });
}

function hex(code: number): string {
  return code.toString(16).toUpperCase().padStart(2, "0");
}

/** In a substitution `$`, `%` and `\` mean something. */
function apacheTarget(to: string): string {
  return to.replace(/[$%\\]/g, "\\$&");
}
