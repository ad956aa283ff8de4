"use client";
import { usePathname } from "next/navigation";
import Link from "./link";
import { VIEWS } from "./views";

/** Stands in place of a view that is not there: what was asked for, and what there is. */
export function NoView() {
  const path = usePathname();
  return (
    <div className="h-full overflow-auto px-6 py-10">
      <h1 className="text-[22px] font-bold">There is nothing at this address</h1>
      <p className="mt-2 break-all font-mono text-[13px] text-soft">{path}</p>
      <p className="mt-4">It may be mistyped, or have moved. These views are there:</p>
      <ul className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        {VIEWS.map((view) => (
          <li key={view.path}>
            <Link href={view.path} className="font-semibold underline decoration-hair underline-offset-4">
              {view.label}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
