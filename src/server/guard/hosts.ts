/** Names that lead to this machine itself. */
const LOOPBACK = ["127.0.0.1", "localhost", "::1"];

/** Whether a server that listens there is reached from this machine only. */
export function isLoopback(host: string): boolean {
  const name = host.toLowerCase().replace(/^\[|\]$/g, "");
  return LOOPBACK.includes(name) || /^127(?:\.\d{1,3}){3}$/.test(name);
}

/**
 * The names that requests may be for: those of this machine, the one that the server listens at, and those of `NINE_LINES_HOSTS`, parted by
 * commas. Any other is one that somebody pointed at this machine.
 */
export function allowedHosts(host: string, more = ""): ReadonlySet<string> {
  const named = more.split(",").map((name) => name.trim());
  // Listening everywhere is no name that anybody asks for.
  const own = ["0.0.0.0", "::", "[::]", ""].includes(host) ? [] : [host];
  return new Set([...LOOPBACK, ...own, ...named].filter(Boolean).map((name) => nameOf(name)));
}

/** A host's name without its port, as names are compared. @example nameOf("[::1]:4909") // "::1" */
function nameOf(host: string): string {
  return host
    .toLowerCase()
    .replace(/^\[([^\]]*)\](?::\d+)?$/, "$1")
    .replace(/^([^:]*):\d+$/, "$1")
    .replace(/\.$/, "");
}

/** What of a request tells whether it is this site's own. */
export interface AskedFrom {
  readonly method: string;
  readonly host: string | undefined;
  readonly origin: string | undefined;
}

/** Whether a request comes from a page of this server: a page elsewhere on the web must not be able to write here, nor to read. */
export function isOwnRequest({ method, host, origin }: AskedFrom, allowed: ReadonlySet<string>): boolean {
  if (host === undefined || !allowed.has(nameOf(host))) return false;
  if (origin === undefined || method === "GET" || method === "HEAD") return true;
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}

/** Why a server may not listen there, in words; `null` where it may. */
export function refusalToListen(host: string, isOpenToAll: boolean): string | null {
  if (isLoopback(host) || isOpenToAll) return null;
  return (
    `HOST is “${host}”: everybody who reaches this machine could read and change everything, since nobody has to sign in yet.\n` +
    "Leave HOST out to listen on this machine only, or start with --open-to-all if that is what you want:\n" +
    "it takes requests from every machine that reaches this one, for the names of this machine, HOST and NINE_LINES_HOSTS."
  );
}
