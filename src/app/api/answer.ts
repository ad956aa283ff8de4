import { z } from "zod";
import { kindDesignSchema } from "../../core/design/design";
import { BOARD_KINDS, TEXTS } from "../../core/design/kinds";
import { FILTERS, SORTS } from "../../core/proof/order";

export const kindSchema = z.enum(BOARD_KINDS);
export const kindsSchema = z.union([kindSchema, z.literal("all")]);
export const textSchema = z.enum(TEXTS);
export const querySchema = z.object({
  text: textSchema,
  scope: z.string().max(60),
  sort: z.enum(SORTS),
  filter: z.enum(FILTERS),
  search: z.string().max(200),
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(500),
});
export const benchSchema = z.object({
  kind: kindSchema,
  design: kindDesignSchema,
  query: querySchema,
  client: z.string().max(60),
});

/** What a design is called in a comparison: `draft`, `kept`, or the number of a named draft. */
export const designNameSchema = z.string().regex(/^(draft|kept|\d{1,12})$/, { error: "that is no name of a design" });

/** A request's JSON body, checked. @throws {z.ZodError} when it is not what was expected. */
export async function bodyOf<S extends z.ZodType>(request: Request, schema: S): Promise<z.output<S>> {
  return schema.parse(await request.json());
}

/** Runs a route's work and answers with JSON; errors become a message in words with a fitting status. */
export async function answer(work: () => unknown): Promise<Response> {
  try {
    return Response.json((await work()) ?? null);
  } catch (error) {
    const { body, status } = failure(error);
    return Response.json(body, { status });
  }
}

function failure(error: unknown): { body: { error: string } | { cancelled: true }; status: number } {
  if (error instanceof z.ZodError)
    return { body: { error: `The request was not understood: ${z.prettifyError(error)}` }, status: 400 };
  if (error instanceof Error && error.name === "Cancelled") return { body: { cancelled: true }, status: 409 };
  if (error instanceof SyntaxError) return { body: { error: "The request holds no JSON." }, status: 400 };
  return { body: { error: error instanceof Error ? error.message : String(error) }, status: 422 };
}

/**
 * Runs work that may take long and answers with lines of JSON: any number of `{ "progress": … }`, then `{ "result": … }` or
 * what {@link answer} says of an error.
 */
export async function streamed(work: (progress: (value: unknown) => void) => Promise<unknown>): Promise<Response> {
  const encoder = new TextEncoder();
  let open = true;
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const tell = (value: unknown) => {
        if (open) controller.enqueue(encoder.encode(`${JSON.stringify(value)}\n`));
      };
      try {
        tell({ result: await work((progress) => tell({ progress })) });
      } catch (error) {
        tell(failure(error).body);
      }
      if (open) controller.close();
      open = false;
    },
    cancel() {
      open = false;
    },
  });
  return new Response(body, {
    headers: { "content-type": "application/x-ndjson; charset=utf-8", "cache-control": "no-store" },
  });
}
