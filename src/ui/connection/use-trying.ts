import { useState } from "react";
import type { TriedList, TriedWrite } from "../../server/wire/try-connection";
import { call, wordsOf } from "../shell/api";

/** What is being asked of the site, or of the server. */
type Act = "list" | "write" | "save";

/** What a description is tried with. */
interface Tried {
  readonly description: string;
  /** `null` for the one that is saved. */
  readonly secret: string | null;
  readonly kind: string;
}

/** Tries a description against the site, one thing at a time, and holds what came of it. */
export function useTrying() {
  const [list, setList] = useState<TriedList | null>(null);
  const [write, setWrite] = useState<TriedWrite | null>(null);
  const [busy, setBusy] = useState<Act | null>(null);
  const [error, setError] = useState<string | null>(null);
  const act = async (what: Act, work: () => Promise<void>) => {
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
  return {
    ...{ list, write, busy, error, act },
    tryList: (tried: Tried) => act("list", async () => setList(await call("wire.tryList", tried))),
    tryWrite: (tried: Tried) => act("write", async () => setWrite(await call("wire.tryWrite", tried))),
    /** Forgets what was written by another description. */
    forgetWrite: () => setWrite(null),
  };
}
