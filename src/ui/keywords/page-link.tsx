import Link from "../shell/link";
import type { PageRef } from "../../server/keywords/keyword-desk";

/** A page by its name and address; leads to its sheet among the items. */
export function PageLink({ page }: { page: PageRef }) {
  return (
    <span className="min-w-0">
      <Link
        href={`/pages?item=${page.kind}-${page.id}`}
        className="block truncate font-semibold underline decoration-transparent underline-offset-4 hover:decoration-key"
      >
        {page.name || "A page without a name"}
      </Link>
      <span className="narrow block truncate text-[12px] text-soft">{page.path}</span>
    </span>
  );
}
