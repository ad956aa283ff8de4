/** A request, as far as the site looks at it. */
export interface SiteRequest {
  readonly method: string;
  /** Path and query, as they came. */
  readonly target: string;
  /** By their names in lower case. */
  readonly headers?: Readonly<Record<string, string | undefined>>;
  readonly body?: string;
}
