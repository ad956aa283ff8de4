"use client";
import { useEffect, useRef, useState } from "react";
import { LIVE_FINDINGS, type LiveFinding } from "../../core/live/finding-words";
import type { CallResult } from "../../server/api/contract";
import { pageAddress } from "../proof/change-page";
import { PLAIN_ACTION } from "../shell/actions";
import Link from "../shell/link";
import { call, wordsOf } from "../shell/api";

type Listed = CallResult<"live.pages">[number];

/** Pages that were checked: what was meant beside what a visitor gets. */
export function LivePages({ finding, stamp }: { finding: LiveFinding | null; stamp: string }) {
  const [pages, setPages] = useState<readonly Listed[]>([]);
  const [hasMore, setHasMore] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const turn = useRef(0);
  const load = async (after: number) => {
    const own = ++turn.current;
    try {
      const more = await call("live.pages", { finding, after });
      // Others were asked for meanwhile.
      if (own !== turn.current) return;
      setError(null);
      setPages((old) => (after === 0 ? more : [...old, ...more]));
      setHasMore(more.length > 0 && more.length % 100 === 0);
    } catch (e) {
      if (own === turn.current) setError(wordsOf(e));
    }
  };
  useEffect(() => void load(0), [finding, stamp]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <>
      {error && (
        <p role="alert" className="text-magenta">
          {error}
        </p>
      )}
      <ul aria-label="Pages">
        {pages.map((own) => (
          <li key={own.id} className="border-b border-hair py-2">
            <p className="text-[12.5px]">
              <Link href={pageAddress(own)} className="font-semibold underline decoration-hair underline-offset-2">
                {own.name || "A page without a name"}
              </Link>{" "}
              <span className="text-soft">{own.path}</span>{" "}
              <span className={own.page.findings.length > 0 ? "font-semibold text-magenta" : "text-soft"}>
                {own.page.findings.length === 0
                  ? "as meant"
                  : own.page.findings.map((name) => LIVE_FINDINGS[name]).join(" · ")}
              </span>
            </p>
            {own.page.trouble !== null && <p className="text-magenta">{own.page.trouble}</p>}
            {(["title", "description"] as const).map((text) => (
              <Compared key={text} text={text} page={own} />
            ))}
            {own.page.hops.length > 1 && (
              <p className="text-[12.5px] text-soft">
                {own.page.hops.map(({ url, status }) => `${status} ${url}`).join(" → ")}
              </p>
            )}
          </li>
        ))}
      </ul>
      {hasMore && (
        <button type="button" className={`${PLAIN_ACTION} mt-3`} onClick={() => void load(pages.at(-1)!.id)}>
          More pages
        </button>
      )}
    </>
  );
}

/** A text that differs: what was meant, and what was met. */
function Compared({ text, page: own }: { text: "title" | "description"; page: Listed }) {
  const how = own.page[text];
  if (!how || how.how === "as-meant") return null;
  return (
    <dl className="mt-1 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-x-2 text-[13px]">
      <dt className="text-soft">{text === "title" ? "Title here" : "Description"}</dt>
      <dd className="break-words">{own[text] || <span className="text-soft">empty</span>}</dd>
      <dt className="text-soft">Visitors get</dt>
      <dd className="break-words">
        {how.how === "adds" ? (
          <>
            <mark className="bg-cyan-pale text-inherit">{how.before}</mark>
            {own[text]}
            <mark className="bg-cyan-pale text-inherit">{how.behind}</mark>
          </>
        ) : (
          (own.page.says?.[text] ?? <span className="text-soft">nothing</span>)
        )}
      </dd>
    </dl>
  );
}
