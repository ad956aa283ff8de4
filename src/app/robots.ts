import type { MetadataRoute } from "next";

/** There is nothing to search for here, and nothing to hide from whoever may open it. */
export default function robots(): MetadataRoute.Robots {
  return { rules: { userAgent: "*", allow: "/" } };
}
