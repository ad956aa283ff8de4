import { type ReactNode } from "react";
import { type Kind } from "../../core/design/kinds";
import Link from "../shell/link";

/** Where a page is looked at. */
export function pageAddress({ kind, id }: { readonly kind: Kind; readonly id: number }): string {
  return `/pages?item=${kind}-${id}`;
}

/** Which page a change is of, on the line above it: its name, which leads to its sheet, and what else is to be said of it. In its list Enter leads there. */
export function ChangePage({
  page: { kind, id, name },
  isGone = false,
  children,
}: {
  page: { readonly kind: Kind; readonly id: number; readonly name: string };
  /** A page that is gone has no sheet. */
  isGone?: boolean;
  children: ReactNode;
}) {
  const words = name || "A page without a name";
  return (
    <p className="narrow absolute left-12 right-24 top-[5px] truncate text-[12px] leading-[20px] text-soft print:static print:whitespace-normal">
      {isGone ? (
        <b className="text-key">{words}</b>
      ) : (
        <Link
          href={pageAddress({ kind, id })}
          tabIndex={-1}
          className="font-semibold text-key underline decoration-hair underline-offset-2 hover:decoration-key"
        >
          {words}
        </Link>
      )}{" "}
      {children}
    </p>
  );
}
