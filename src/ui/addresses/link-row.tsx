"use client";
import { Popover } from "radix-ui";
import { useState } from "react";
import { toast } from "sonner";
import type { ListedLink } from "../../server/links/link-set";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { type AddressesView } from "./addresses-url";
import { FINDING_WORDS } from "./link-words";
import { PageLink } from "../shell/page-link";

const TEXT_ACTION = "underline decoration-hair underline-offset-4 hover:decoration-key";

/** A link: the page that it is on, what it says, where it leads, and what it is to say instead. */
export function LinkRow({
  link,
  shown,
  grid,
  onChanged,
}: {
  link: ListedLink;
  /** What all links of the list have: it is not said of each. */
  shown: AddressesView["links"];
  grid: string;
  onChanged: () => void;
}) {
  const { page, href, text, rel, findings, mend } = link;
  const set = async (after: string | null) => {
    const of = { item: page.id, href };
    try {
      if (after === null) await call("links.unmend", { links: [of] });
      else await call("links.mend", { ...of, after });
      onChanged();
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <div className="grid h-full items-center gap-4 px-5" style={{ gridTemplateColumns: grid }}>
      <PageLink page={page} />
      <span className="min-w-0">
        <span className="block truncate">
          {text || <span className="text-magenta">no text</span>}
          {rel && <span className="narrow ml-2 text-[12px] text-soft">{rel}</span>}
        </span>
        <span className="block truncate font-mono text-[11.5px] text-soft" title={href}>
          {href || "(this page)"}
        </span>
      </span>
      <span className="min-w-0">
        <span className="block truncate">
          <Target link={link} />
          {findings
            .filter((own) => own !== shown)
            .map((own) => (
              <span key={own} className="narrow ml-2 text-[12px] text-magenta">
                {FINDING_WORDS[own].label}
              </span>
            ))}
        </span>
        <NextHref link={link} onMend={set} />
      </span>
      <span className="text-right text-[12.5px]">
        {mend === null ? (
          <Edit link={link} onMend={set} />
        ) : (
          <button type="button" className={TEXT_ACTION} onClick={() => void set(null)}>
            Leave as it is
          </button>
        )}
      </span>
    </div>
  );
}

function Target({ link: { target, end, findings } }: { link: ListedLink }) {
  if (target) return target.name || target.path;
  if (end) return <span className="font-mono text-[11.5px]">{end}</span>;
  return <span className="text-soft">{findings.includes("broken") ? "No page there" : "A file"}</span>;
}

const HREF = "block max-w-full truncate font-mono text-[11.5px]";

/** What the link is to say, or could; else the address that it leads to. */
function NextHref({ link, onMend }: { link: ListedLink; onMend: (after: string) => Promise<void> }) {
  const { target, proposal, mend, href } = link;
  if (mend !== null)
    return (
      <span className={`${HREF} font-bold`} title={mend}>
        → {mend}
      </span>
    );
  if (proposal === null || proposal === href) return <span className={`${HREF} text-soft`}>{target?.path ?? ""}</span>;
  return (
    <button
      type="button"
      className={`${HREF} ${TEXT_ACTION}`}
      title={`Lead to ${proposal}`}
      onClick={() => void onMend(proposal)}
    >
      → {proposal}
    </button>
  );
}

/** Where the link is to lead, as typed. */
function Edit({ link, onMend }: { link: ListedLink; onMend: (after: string) => Promise<void> }) {
  const [isOpen, setOpen] = useState(false);
  const { proposal, href, page } = link;
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className={TEXT_ACTION} aria-label={`Lead elsewhere: ${href} on ${page.name}`}>
        Edit
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-40 w-[380px] max-w-[calc(100vw-1.5rem)] rounded-sm border border-key bg-sheet p-3 shadow-[4px_4px_0_rgb(20_33_42/0.25)]"
        >
          <form
            className="flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              const typed = new FormData(event.currentTarget).get("after");
              setOpen(false);
              void onMend(typeof typed === "string" ? typed.trim() : "");
            }}
          >
            <input
              name="after"
              aria-label="Where the link is to lead"
              defaultValue={proposal ?? href}
              maxLength={4000}
              autoFocus
              className="min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2 py-1 font-mono text-[12.5px]"
            />
            <button type="submit" className={PLAIN_ACTION}>
              Put in the review
            </button>
          </form>
          <p className="mt-2 text-[12px] text-soft">Every link on this page that says {href || "nothing"} changes.</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
