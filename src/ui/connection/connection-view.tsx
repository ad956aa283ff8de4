"use client";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import type { CallResult } from "../../server/api/contract";
import type { TriedList, TriedWrite } from "../../server/wire/try-connection";
import { INPUT } from "../settings/fields";
import { BAR_ACTION, MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import Link from "../shell/link";
import { useJobs } from "../shell/jobs";
import { BarSlot } from "../shell/shell";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { kindsIn, withoutField, withPlace } from "./description";
import { LookPanel } from "./look-panel";
import { NEW_DESCRIPTION } from "./start";
import { TriedListView } from "./tried-list";

type Connected = CallResult<"wire.read">;

/** How the site's interface is spoken to: written, tried against a real answer, kept. */
export function ConnectionView() {
  const { state } = useSite();
  const [connection, setConnection] = useState<Connected>(null);
  const [text, setText] = useState<string | null>(null);
  const [secret, setSecret] = useState("");
  const [kind, setKind] = useState("");
  const [list, setList] = useState<TriedList | null>(null);
  const [write, setWrite] = useState<TriedWrite | null>(null);
  const [busy, setBusy] = useState<"list" | "write" | "save" | null>(null);
  const [error, setError] = useState<string | null>(null);
  // A look that finds nothing new changes no page, and is the last look all the same.
  const look = useJobs().find(({ type }) => type === "look");
  useEffect(() => {
    call("wire.read", {})
      .then((found) => {
        setConnection(found);
        setText((old) => old ?? found?.description ?? "");
      })
      .catch((e: unknown) => setError(wordsOf(e)));
  }, [state.revision, look?.id, look?.state]);

  const examples = useCall("wire.examples", {}, "");
  const description = text ?? "";
  const kinds = kindsIn(description);
  const chosen = kinds.includes(kind) ? kind : (kinds[0] ?? "");
  const asked = { description, secret: secret === "" ? null : secret, kind: chosen };
  const act = async (what: NonNullable<typeof busy>, work: () => Promise<void>) => {
    setBusy(what);
    setError(null);
    try {
      await work();
    } catch (e) {
      setError(wordsOf(e));
    } finally {
      setBusy(null);
    }
  };
  const tryList = () => act("list", async () => setList(await call("wire.tryList", asked)));
  const tryWrite = () => act("write", async () => setWrite(await call("wire.tryWrite", asked)));
  const save = () =>
    act("save", async () => {
      setConnection(
        await call("wire.save", { description, secret: asked.secret, seen: connection?.description ?? null }),
      );
      setSecret("");
      toast("Connection saved");
    });
  const remove = () =>
    act("save", async () => {
      await call("wire.remove", {});
      setConnection(null);
      toast("Connection removed; pages and runs stay");
    });
  const change = (next: string) => {
    setText(next);
    setWrite(null);
  };
  const isOther = description !== (connection?.description ?? "") || secret !== "";
  return (
    <div className="desk [--columns:420px_minmax(0,1fr)]">
      <BarSlot>
        <Link href="/import" className={BAR_ACTION}>
          Import
        </Link>
        <button type="button" className={MAIN_ACTION} disabled={!isOther || busy !== null} onClick={() => void save()}>
          Save connection
        </button>
      </BarSlot>
      <section
        aria-label="Description"
        className="desk-first min-h-0 overflow-auto border-r border-hair px-4 pb-4 pt-3"
      >
        <h1 className="text-[18px] font-bold">Connection</h1>
        <p className="mt-1 text-soft">
          {connection
            ? `${connection.name} at ${connection.base}. ${connection.writes ? "Applying a review changes the live site." : "It is read only."}`
            : "Where the site has an interface for programs, pages are imported from it and changes go out over it."}
        </p>
        <label className="mt-3 block font-semibold" htmlFor="description">
          Connection file
        </label>
        <textarea
          id="description"
          spellCheck={false}
          className={`${INPUT} mt-1 h-72 resize-y whitespace-pre font-mono text-[12px]`}
          value={description}
          onChange={(event) => change(event.target.value)}
        />
        <p className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-[12.5px]">
          Begin with:
          {[{ name: "A new one", description: NEW_DESCRIPTION }, ...(examples.answer ?? [])].map((own) => (
            <button
              key={own.name}
              type="button"
              className="underline underline-offset-2"
              onClick={() => change(own.description)}
            >
              {own.name}
            </button>
          ))}
          <label className="cursor-pointer underline underline-offset-2 focus-within:outline">
            Open a file
            <input
              type="file"
              accept=".json,application/json"
              className="sr-only"
              onChange={(event) => void event.target.files?.[0]?.text().then(change)}
            />
          </label>
        </p>
        <label className="mt-3 block font-semibold" htmlFor="secret">
          Secret
        </label>
        <input
          id="secret"
          type="password"
          autoComplete="off"
          className={`${INPUT} mt-1`}
          value={secret}
          placeholder={connection?.hasSecret ? "Saved; type another one to replace it" : ""}
          onChange={(event) => setSecret(event.target.value)}
        />
        <p className="mt-1 text-[12px] text-soft">
          {connection?.isFromEnvironment
            ? `It comes from the environment variable ${connection.variable}.`
            : "Stands for {secret} in headers. It is kept in a file of its own on this computer and sent to this address only."}
        </p>
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <select
            aria-label="Kind to try"
            className="rounded-sm border border-edge bg-sheet px-2 py-1"
            value={chosen}
            onChange={(event) => setKind(event.target.value)}
          >
            {kinds.map((own) => (
              <option key={own}>{own}</option>
            ))}
          </select>
          <button
            type="button"
            className={PLAIN_ACTION}
            disabled={chosen === "" || busy !== null}
            onClick={() => void tryList()}
          >
            Try the first page
          </button>
          <button
            type="button"
            className={PLAIN_ACTION}
            disabled={chosen === "" || busy !== null}
            onClick={() => void tryWrite()}
          >
            Try to write
          </button>
        </div>
        {busy && busy !== "save" && (
          <p role="status" className="mt-2 text-soft">
            Asking the site …
          </p>
        )}
        {error && (
          <p role="alert" className="mt-2 break-words text-magenta">
            {error}
          </p>
        )}
        {connection && <LookPanel connection={connection} />}
        {connection && (
          <p className="mt-4 border-t border-hair pt-3">
            <button type="button" className={PLAIN_ACTION} disabled={busy !== null} onClick={() => void remove()}>
              Remove the connection
            </button>
          </p>
        )}
      </section>
      <section aria-label="Answers" className="min-h-0 min-w-0 overflow-auto bg-sheet px-6 py-4">
        {write && <TriedWriteView tried={write} />}
        {list ? (
          <TriedListView
            tried={list}
            description={description}
            onPlace={(field, place) => {
              const next = withPlace(description, field, place);
              change(next);
              void act("list", async () => setList(await call("wire.tryList", { ...asked, description: next })));
            }}
            onRemove={(field) => {
              const next = withoutField(description, field);
              change(next);
              void act("list", async () => setList(await call("wire.tryList", { ...asked, description: next })));
            }}
          />
        ) : (
          <FirstSteps />
        )}
      </section>
    </div>
  );
}

/** What to do before anything was asked. */
function FirstSteps() {
  return (
    <ol className="max-w-xl list-decimal space-y-2 pl-5">
      <li>
        Begin with one of the descriptions below the text, or with a file of your own: where the site’s interface is,
        which lists it has, where each field stands in a record.
      </li>
      <li>Type in the secret that the site gave you.</li>
      <li>
        <b>Try the first page</b>: the first records appear here, each beside what was understood of it. Point at a
        value to say that it is the title, the address and so on.
      </li>
      <li>
        <b>Try to write</b>: one page is written as it is and read again, so nothing changes on the site.
      </li>
      <li>
        <b>Save connection</b>, then import the pages. From then on applying a review changes the live site, and a run
        says what the site confirmed.
      </li>
    </ol>
  );
}

function TriedWriteView({ tried: { page, sent, isSame, words } }: { tried: TriedWrite }) {
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
