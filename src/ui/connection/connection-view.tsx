"use client";
import { useState } from "react";
import { toast } from "sonner";
import { BAR_ACTION, MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { call } from "../shell/api";
import Link from "../shell/link";
import { BarSlot } from "../shell/shell";
import { kindsIn, withoutField, withPlace } from "./description";
import { DescriptionForm } from "./description-form";
import { FirstSteps } from "./first-steps";
import { LookPanel } from "./look-panel";
import { TriedListView } from "./tried-list";
import { TriedWriteView } from "./tried-write";
import { type Connected, useDescription } from "./use-description";
import { useTrying } from "./use-trying";

/** How the site's interface is spoken to: written, tried against a real answer, kept. */
export function ConnectionView() {
  const description = useDescription();
  const { connection, typed, seen, isChanged } = description;
  const [secret, setSecret] = useState("");
  const [kind, setKind] = useState("");
  const trying = useTrying();
  const { busy, list, write } = trying;
  const kinds = kindsIn(typed);
  const chosen = kinds.includes(kind) ? kind : (kinds[0] ?? "");
  const tried = { description: typed, secret: secret === "" ? null : secret, kind: chosen };

  const save = () =>
    trying.act("save", async () => {
      description.saved(await call("wire.save", { description: typed, secret: tried.secret, seen }));
      setSecret("");
      toast("Connection saved");
    });
  const remove = () =>
    trying.act("save", async () => {
      await call("wire.remove", {});
      description.saved(null);
      toast("Connection removed; pages and runs stay");
    });
  const type = (next: string) => {
    description.type(next);
    trying.forgetWrite();
  };
  const typeAndTry = (next: string) => {
    type(next);
    void trying.tryList({ ...tried, description: next });
  };
  const error = trying.error ?? description.error;
  return (
    <div className="desk [--columns:420px_minmax(0,1fr)]">
      <BarSlot>
        <Link href="/import" className={BAR_ACTION}>
          Import
        </Link>
        <button
          type="button"
          className={MAIN_ACTION}
          disabled={!(isChanged || secret !== "") || busy !== null}
          onClick={() => void save()}
        >
          Save connection
        </button>
      </BarSlot>
      <section
        aria-label="Description"
        className="desk-first min-h-0 overflow-auto border-r border-hair px-4 pb-4 pt-3"
      >
        <h1 className="text-[18px] font-bold">Connection</h1>
        <p className="mt-1 text-soft">{introOf(connection)}</p>
        <DescriptionForm description={{ ...description, type }} secret={secret} onSecret={setSecret} />
        <TryButtons
          kinds={kinds}
          chosen={chosen}
          isBusy={busy !== null}
          onKind={setKind}
          onList={() => void trying.tryList(tried)}
          onWrite={() => void trying.tryWrite(tried)}
        />
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
            description={typed}
            onPlace={(field, place) => typeAndTry(withPlace(typed, field, place))}
            onRemove={(field) => typeAndTry(withoutField(typed, field))}
          />
        ) : (
          <FirstSteps />
        )}
      </section>
    </div>
  );
}

function introOf(connection: Connected | null): string {
  if (!connection)
    return "Where the site has an interface for programs, pages are imported from it and changes go out over it.";
  const { name, base, writes } = connection;
  return `${name} at ${base}. ${writes ? "Applying a review changes the live site." : "It is read only."}`;
}

/** The kind that the description is tried with, and what of it. */
function TryButtons(props: {
  kinds: readonly string[];
  chosen: string;
  isBusy: boolean;
  onKind: (kind: string) => void;
  onList: () => void;
  onWrite: () => void;
}) {
  const isOff = props.chosen === "" || props.isBusy;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      <select
        aria-label="Kind to try"
        className="rounded-sm border border-edge bg-sheet px-2 py-1"
        value={props.chosen}
        onChange={(event) => props.onKind(event.target.value)}
      >
        {props.kinds.map((own) => (
          <option key={own}>{own}</option>
        ))}
      </select>
      <button type="button" className={PLAIN_ACTION} disabled={isOff} onClick={props.onList}>
        Try the first page
      </button>
      <button type="button" className={PLAIN_ACTION} disabled={isOff} onClick={props.onWrite}>
        Try to write
      </button>
    </div>
  );
}
