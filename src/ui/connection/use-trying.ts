import { useRef, useState } from "react";
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
  const turn = useRef(0);
  /** Does one thing, and shows what came of it unless another was begun meanwhile. */
  const act = async <T>(what: Act, work: () => Promise<T>, show: (answer: T) => void = () => {}) => {
    const own = ++turn.current;
    setBusy(what);
    setError(null);
    try {
      const answer = await work();
      if (own === turn.current) show(answer);
    } catch (e) {
      if (own === turn.current) setError(wordsOf(e));
    } finally {
      if (own === turn.current) setBusy(null);
    }
  };
  return {
    ...{ list, write, busy, error, act },
    tryList: (tried: Tried) => act("list", () => call("wire.tryList", tried), setList),
    tryWrite: (tried: Tried) => act("write", () => call("wire.tryWrite", tried), setWrite),
    /** Forgets what was written by another description. */
    forgetWrite: () => setWrite(null),
  };
}
