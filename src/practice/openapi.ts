import description from "./openapi.json";

/** What programs can ask of the site, as OpenAPI 3.1 describes it. @param base where the site is. */
export function openApi(base: string): object {
  return { ...description, servers: [{ url: base }] };
}
