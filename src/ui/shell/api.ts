/** An answer that says in words what went wrong. */
export class ApiError extends Error {}

/** Asks the server; a newer request with the same signal's controller may abort it. @throws {ApiError} with the server's words. */
export async function ask<T>(
  path: string,
  options: { method?: string; body?: unknown; signal?: AbortSignal; keepalive?: boolean } = {},
): Promise<T> {
  const method = options.method ?? (options.body === undefined ? "GET" : "POST");
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(options.body === undefined
        ? {}
        : { body: JSON.stringify(options.body), headers: { "content-type": "application/json" } }),
      ...(options.signal ? { signal: options.signal } : {}),
      keepalive: options.keepalive ?? false,
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new ApiError(
      "The server does not answer. See whether it still runs, then try again; your draft is kept in this window.",
    );
  }
  const answer = (await response.json().catch(() => null)) as (T & { error?: string; cancelled?: boolean }) | null;
  if (response.ok) return answer as T;
  if (answer?.cancelled) throw new DOMException("A newer request took its place", "AbortError");
  throw new ApiError(answer?.error ?? `The server answered with status ${response.status}.`);
}

/** Asks for what may take long: hears of its progress, one JSON value a line, before the result. @throws {ApiError} */
export async function askStreamed<T, P>(
  path: string,
  body: unknown,
  options: { method?: string; signal: AbortSignal; onProgress: (progress: P) => void },
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: options.method ?? "POST",
      body: JSON.stringify(body),
      headers: { "content-type": "application/json" },
      signal: options.signal,
    });
    if (!response.ok || !response.body) throw new ApiError(`The server answered with status ${response.status}.`);
    const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
    let rest = "";
    for (;;) {
      const { value, done } = await reader.read();
      const lines = (rest + (value ?? "")).split("\n");
      rest = done ? "" : lines.pop()!;
      for (const line of lines) {
        if (line === "") continue;
        const said = JSON.parse(line) as { progress?: P; result?: T; error?: string; cancelled?: boolean };
        if ("result" in said) return said.result as T;
        if (said.cancelled) throw new DOMException("A newer request took its place", "AbortError");
        if (said.error !== undefined) throw new ApiError(said.error);
        if (said.progress !== undefined) options.onProgress(said.progress);
      }
      if (done) throw new ApiError("The server's answer ended too early. Try again.");
    }
  } catch (error) {
    if (error instanceof ApiError || isAborted(error)) throw error;
    throw new ApiError(
      "The server does not answer. See whether it still runs, then try again; your draft is kept in this window.",
    );
  }
}

/** Whether an error only says that a newer request took this one's place. */
export function isAborted(error: unknown): boolean {
  return error instanceof DOMException && error.name === "AbortError";
}
