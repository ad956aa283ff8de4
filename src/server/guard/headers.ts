import { randomBytes } from "node:crypto";
import { type IncomingMessage, type ServerResponse } from "node:http";

/** What a page may load and do: everything is of this server; of scripts only those that bear the page's own nonce run. */
export function contentSecurityPolicy(nonce: string): string {
  return [
    "default-src 'self'",
    `script-src 'nonce-${nonce}' 'strict-dynamic'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}

/** Gives an answer the headers that keep a page from being led astray. The pages' renderer reads the nonce from the request. */
export function putSecurityHeaders(request: IncomingMessage, response: ServerResponse): void {
  const policy = contentSecurityPolicy(randomBytes(16).toString("base64"));
  request.headers["content-security-policy"] = policy;
  response.setHeader("content-security-policy", policy);
  response.setHeader("x-content-type-options", "nosniff");
  response.setHeader("referrer-policy", "no-referrer");
  response.setHeader("cross-origin-opener-policy", "same-origin");
}
