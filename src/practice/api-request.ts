import * as z from "zod";
import { type Answer } from "./answer";

/** A request to an interface. */
export interface ApiRequest {
  readonly method: string;
  /** Below the face’s own path, such as `/pages/post-p1`. */
  readonly path: string;
  readonly query: URLSearchParams;
  /** By their names in lower case. */
  readonly headers: Readonly<Record<string, string | undefined>>;
  readonly body: string;
}

/** How a face says that something is wrong. */
export type Wrong = (status: number, title: string, detail: string) => Answer;

/** A body as it has to be, or the answer that says why it is not. */
export function readJson<S extends z.ZodType>(
  body: string,
  schema: S,
  wrong: Wrong,
): { readonly value: z.output<S> } | { readonly wrong: Answer } {
  let json: unknown;
  try {
    json = JSON.parse(body);
  } catch (error) {
    return { wrong: wrong(400, "Bad request", `The body is no JSON: ${(error as Error).message}`) };
  }
  const read = schema.safeParse(json);
  return read.success
    ? { value: read.data }
    : { wrong: wrong(422, "Unprocessable content", z.prettifyError(read.error)) };
}

/** A path of the site, with a query where a page stands at one. */
export const pathSchema = z.string().regex(/^\/[^\s#]*$/, "a path that begins with a slash");
