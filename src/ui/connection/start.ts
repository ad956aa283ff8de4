import { written } from "./description";

/** What a description begins with: each of its parts once, to be changed. */
const SKELETON = {
  version: 1,
  name: "My site",
  base: "https://site.example/api",
  headers: { authorization: "Bearer {secret}" },
  limits: { perSecond: 5, atOnce: 2 },
  fields: { id: "/id", address: "/url", name: "/name", title: "/meta_title", description: "/meta_description" },
  kinds: {
    product: { list: { url: "/products{?limit,page}", limit: 100, records: "/items", next: { by: "page", first: 1 } } },
  },
  read: { url: "/products/{id}" },
  write: { method: "PATCH", url: "/products/{id}", body: "patch", unchanged: { by: "etag" } },
};

/** A description to begin with. */
export const NEW_DESCRIPTION = written(SKELETON);
