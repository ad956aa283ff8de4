import type { Kind } from "../../core/design/kinds";
import Link from "./link";

/** A page by its name and address; leads to its sheet in Pages. */
export function PageLink({
  page,
}: {
  page: { readonly kind: Kind; readonly id: number; readonly name: string; readonly path: string };
}) {
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
