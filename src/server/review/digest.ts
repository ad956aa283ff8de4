import { createHash } from "node:crypto";

/** A digest of a text or of bytes, short enough to travel. */
export function hashOf(what: string | Uint8Array): string {
  return createHash("sha256").update(what).digest("base64url").slice(0, 24);
}
