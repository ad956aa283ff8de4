"use client";
import Link from "../shell/link";
import { counted } from "../shell/format";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";

/** So many links to the page are shown. */
const SHOWN = 5;

/** The links of bodies that lead to a page, with their texts, and how many it has itself. */
export function SheetLinks({ id, stamp, heading }: { id: number; stamp: string; heading: string }) {
  const { state } = useSite();
  const own = `${stamp} ${state.redirects} ${state.links}`;
  const any = { finding: "all", search: "", from: 0 } as const;
  const to = useCall("links.list", { ...any, on: null, to: id, count: SHOWN }, own).answer;
  const on = useCall("links.list", { ...any, on: id, to: null, count: 0 }, own).answer;
  if (!to || !on) return null;
  const list = (side: "on" | "to") => `/addresses?face=links&links=all&${side}=${id}`;
  const hrefClass = "underline decoration-hair underline-offset-4 hover:decoration-key";
  return (
    <section aria-label="Links" className="mt-4">
      <h3 className={heading}>Links</h3>
      {to.unread > 0 ? (
        <p className="pt-1 text-soft">Bodies are being read for links …</p>
      ) : (
        <>
          <p className="pt-1">
            {to.total === 0 ? (
              "No link in a body leads here"
            ) : (
              <Link className={hrefClass} href={list("to")}>
                {counted(to.total, "link leads", "links lead")} here
              </Link>
            )}
            {" · "}
            {on.total === 0 ? (
              "none on the page"
            ) : (
              <Link className={hrefClass} href={list("on")}>
                {counted(on.total, "link", "links")} on the page
              </Link>
            )}
          </p>
          <ul className="text-soft">
            {to.links.map((link) => (
              <li key={`${link.page.id} ${link.number}`} className="truncate">
                “{link.text || "no text"}” on {link.page.name}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
