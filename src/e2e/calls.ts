import type { Page } from "playwright-core";
import { expect } from "vitest";
import type { Kind } from "../core/design/kinds";
import type { CallInput, CallName, CallResult } from "../server/api/contract";
import type { StoredJob } from "../store/jobs";

/** An answer of the server as it came; of one in pieces the last, which is the result or the error. */
export interface Answer<T> {
  readonly status: number;
  readonly text: string;
  readonly body: T;
}

/** Sends something to a path, JSON unless it is text, and gives what comes back, whatever it is. */
export async function send<T = { error?: string; code?: string }>(
  url: string,
  path: string,
  body?: unknown,
  init: RequestInit = {},
): Promise<Answer<T>> {
  const response = await fetch(url + path, {
    method: body === undefined ? "GET" : "POST",
    ...(body === undefined
      ? {}
      : {
          body: typeof body === "string" ? body : JSON.stringify(body),
          headers: { "content-type": "application/json" },
        }),
    ...init,
  });
  const text = await response.text();
  const last = text.trim().split("\n").at(-1)!;
  return { status: response.status, text, body: (/^[[{]|^null/.test(last) ? JSON.parse(last) : null) as T };
}

/** Asks the server for something by its name, as a window of this name; it has to answer. */
export async function ask<N extends CallName>(
  url: string,
  name: N,
  input: CallInput<N>,
  client = "test",
): Promise<CallResult<N>> {
  const { status, text, body } = await send<{ result?: unknown }>(url, `/api/${name}`, input, {
    headers: { "content-type": "application/json", "x-client": client },
  });
  expect(status, text.slice(0, 500)).toBe(200);
  if (body !== null && typeof body === "object" && "error" in body) throw new Error(`${name}: ${text.slice(-500)}`);
  return (body !== null && typeof body === "object" && "result" in body ? body.result : body) as CallResult<N>;
}

const isOpen = ({ state }: StoredJob) => state === "waiting" || state === "running";

/** Waits until the server has no job to do any more. */
export async function settled(url: string): Promise<void> {
  while ((await ask(url, "jobs.list", {})).some(isOpen)) await new Promise((resolve) => setTimeout(resolve, 20));
}

/** Waits until the server has a draft with what was typed in it, and the page knows. */
export async function draftStored(url: string, page: Page, kind: Kind, typed: string): Promise<void> {
  const stored = async () => JSON.stringify((await ask(url, "site.state", {})).drafts[kind]?.design);
  await expect.poll(stored, { interval: 40 }).toContain(JSON.stringify(typed).slice(1, -1));
  await page.waitForSelector("[data-draft=stored]");
}

/** Waits until the page has drawn what it was just told. */
export async function drawn(page: Page): Promise<void> {
  await page.evaluate(
    () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(() => resolve(null)))),
  );
}
