import { z } from "zod";
import { kindDesignSchema } from "../../core/design/design";
import { BOARD_KINDS, TEXTS } from "../../core/design/kinds";
import { FILTERS, SORTS } from "../../core/proof/order";

export const kindSchema = z.enum(BOARD_KINDS);
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
export const benchSchema = z.object({ kind: kindSchema, design: kindDesignSchema, query: querySchema, client: z.string().max(60) });

/** A request's JSON body, checked. @throws {z.ZodError} when it is not what was expected. */
export async function bodyOf<S extends z.ZodType>(request: Request, schema: S): Promise<z.output<S>> {
  return schema.parse(await request.json());
}

/** Runs a route's work and answers with JSON; errors become a message in words with a fitting status. */
export async function answer(work: () => unknown): Promise<Response> {
  try {
    return Response.json((await work()) ?? null);
  } catch (error) {
    if (error instanceof z.ZodError) return Response.json({ error: `The request was not understood: ${z.prettifyError(error)}` }, { status: 400 });
    if (error instanceof Error && error.name === "Cancelled") return Response.json({ cancelled: true }, { status: 409 });
    if (error instanceof SyntaxError) return Response.json({ error: "The request holds no JSON." }, { status: 400 });
    return Response.json({ error: error instanceof Error ? error.message : String(error) }, { status: 422 });
  }
}
