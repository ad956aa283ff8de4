import type { LinkedPage } from "../../server/links/link-set";
import Link from "../shell/link";

/** A page at one end of a link; leads to its sheet. */
export function LinkedPageLink({ page }: { page: LinkedPage }) {
  return (
    <span className="min-w-0">
      <Link
        href={`/pages?item=${page.kind}-${page.id}`}
        className="block truncate font-semibold underline decoration-transparent underline-offset-4 hover:decoration-key"
      >
        {page.name || "A page without a name"}
      </Link>
      <span className="block truncate font-mono text-[11.5px] text-soft">{page.path || "no address"}</span>
    </span>
  );
}
