"use client";
import { useState } from "react";
import type { PathWay } from "../../server/redirects/redirect-set";
import { useCall } from "../shell/queries";
import Link from "../shell/link";

const ORIGIN_WORDS = { run: "from a run", hand: "by hand", file: "from a file" } as const;

/** Asks where a path leads: every hop, and what decides. */
export function WayOfPath(props: { path: string; onPath: (path: string) => void; stamp: string }) {
  const [typed, setTyped] = useState(props.path);
  const { answer, error, isCurrent } = useCall(
    "redirects.way",
    props.path === "" ? null : { path: props.path },
    props.stamp,
  );
  return (
    <section aria-label="Where a path leads">
      <h2 className="font-bold">Where does this path lead?</h2>
      <form
        className="mt-1 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          props.onPath(typed.trim());
        }}
      >
        <input
          aria-label="Path to follow"
          className="min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2 py-1 font-mono text-[12.5px] placeholder:text-soft"
          placeholder="/an-old-path"
          value={typed}
          maxLength={4000}
          onChange={(event) => setTyped(event.target.value)}
        />
        <button type="submit" className="rounded-sm border border-edge bg-sheet px-3 font-semibold hover:border-key">
          Follow
        </button>
      </form>
      <div role="status" className="min-h-[20px] pt-1">
        {props.path !== "" && error && <p className="text-magenta">{error}</p>}
        {props.path !== "" && isCurrent && answer && <Way way={answer} />}
      </div>
    </section>
  );
}

function Way({ way }: { way: PathWay }) {
  return (
    <ol className="text-[12.5px]">
      {way.hops.length === 0 && <li className="break-all font-mono text-[12px]">{way.path}</li>}
      {way.hops.map((hop, i) => (
        <li key={i} className="border-l border-key pb-1 pl-3">
          <span className="break-all font-mono text-[12px] text-soft">{hop.from}</span>
          <span className="block text-soft">
            {hop.status}, {hop.by === "prefix" ? "with its folder" : "this path alone"}
            {hop.origin && (
              <>
                ,{" "}
                {hop.run === null ? (
                  ORIGIN_WORDS[hop.origin]
                ) : (
                  <Link className="underline" href={`/runs/${hop.run}`}>
                    from run {hop.run}
                  </Link>
                )}
              </>
            )}
          </span>
        </li>
      ))}
      <li className="pt-0.5">
        <End way={way} />
      </li>
      {way.hops.length > 1 && way.status < 400 && (
        <li className="pt-0.5 text-soft">Exported as one hop, with status {way.status}.</li>
      )}
    </ol>
  );
}

function End({ way: { to, status, page } }: { way: PathWay }) {
  if (status === 410) return <b>Gone for good: 410</b>;
  if (to === null) return <b className="text-magenta">Leads nowhere: {status === 508 ? "a circle" : "404"}</b>;
  return (
    <>
      <b className="break-all font-mono text-[12px]">{to}</b>
      {page ? (
        <span className="block">
          <Link className="underline" href={`/pages?item=${page.kind}-${page.id}`}>
            {page.name || "a page without a name"}
          </Link>
          {status === 200 && <span className="text-soft"> is here; nothing redirects</span>}
        </span>
      ) : (
        to.startsWith("/") && <span className="block text-magenta">No page is there</span>
      )}
    </>
  );
}
