import type { TriedWrite } from "../../server/wire/try-connection";

/** What came of writing one page as it is. */
export function TriedWriteView({ tried: { page, sent, isSame, words } }: { tried: TriedWrite }) {
  return (
    <section aria-label="Write" className="mb-5 border-l-4 border-rule bg-raised px-4 py-2">
      <p role="status" className={isSame ? "font-semibold" : "font-semibold text-magenta"}>
        {words}.
      </p>
      <p className="mt-1 break-all font-mono text-[12px]">
        {sent.method} {sent.url}
      </p>
      <pre className="mt-1 max-h-40 overflow-auto whitespace-pre-wrap break-all text-[12px]">{sent.body}</pre>
      <p className="mt-1 text-[12px] text-soft">That was the page “{page}”, with the title that it has.</p>
    </section>
  );
}
