import { useEffect, useRef } from "react";

/** What a pasted table is called, where files have a name. */
const NAME = "pasted table.tsv";

/**
 * What was pasted as a file, where it is a table: rows of cells that tabs part. `null` for any other text.
 *
 * @example tableFile("id\tname\n1\tRope") // a file of two rows
 */
export function tableFile(text: string): File | null {
  const [first = "", second = ""] = text.split(/\r?\n/);
  return first.includes("\t") && second.trim() !== ""
    ? new File([text], NAME, { type: "text/tab-separated-values" })
    : null;
}

/** Takes a table that is pasted anywhere on the screen, but for fields that text is typed into. */
export function usePastedTable(take: (file: File) => void): void {
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const { target } = event;
      if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return;
      const file = tableFile(event.clipboardData?.getData("text/plain") ?? "");
      if (!file) return;
      event.preventDefault();
      latest.current(file);
    };
    window.addEventListener("paste", onPaste);
    return () => window.removeEventListener("paste", onPaste);
  }, []);
}
