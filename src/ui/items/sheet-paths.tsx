"use client";
import { useState } from "react";
import { toast } from "sonner";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count, counted } from "../shell/format";
import { OneLineForm } from "../shell/one-line-form";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";

/** So many paths are shown. */
const SHOWN = 10;

/** The paths that lead to a page besides its own address; further ones can be given to it. */
export function SheetPaths({ id, path, stamp, heading }: { id: number; path: string; stamp: string; heading: string }) {
  const { refresh } = useSite();
  const [isWriting, setWriting] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const { answer } = useCall("redirects.toPage", { path, most: SHOWN }, stamp);
  const done = async (work: Promise<string>) => {
    try {
      toast(await work);
      setError(null);
      setWriting(false);
    } catch (failure) {
      setError(wordsOf(failure));
    }
    await refresh().catch(() => {});
  };
  const add = (typed: string) =>
    done(
      call("redirects.addPath", { page: id, path: typed }).then(({ ledTo }) =>
        ledTo === null
          ? `${typed} leads here from now on`
          : `${typed} leads here from now on; before it led to ${ledTo}`,
      ),
    );
  const retire = (redirect: number, from: string) =>
    done(call("redirects.retire", { ids: [redirect] }).then(() => `${from} leads here no longer`));
  return (
    <section aria-label="Further paths" className="mt-4">
      <h3 className={heading}>Further paths</h3>
      {answer && (
        <>
          <p className="pt-1 text-soft">
            {answer.total === 0
              ? "No other path leads here"
              : `${counted(answer.total, "path redirects", "paths redirect")} here, wherever the page moves`}
          </p>
          <ul>
            {answer.paths.map((own) => (
              <li key={own.path} className="flex items-baseline gap-2 py-0.5">
                <span className="min-w-0 flex-1 break-all font-mono text-[12px]">{own.path}</span>
                {own.id !== null && (
                  <button
                    type="button"
                    className={PLAIN_ACTION}
                    aria-label={`Retire the path ${own.path}`}
                    onClick={() => void retire(own.id!, own.path)}
                  >
                    Retire
                  </button>
                )}
              </li>
            ))}
          </ul>
          {answer.total > answer.paths.length && (
            <p className="text-soft">and {count(answer.total - answer.paths.length)} more</p>
          )}
        </>
      )}
      {error && (
        <p role="alert" className="text-magenta">
          {error}
        </p>
      )}
      {!isWriting ? (
        <button type="button" className={`${PLAIN_ACTION} mt-1`} onClick={() => setWriting(true)}>
          Add a path
        </button>
      ) : (
        <OneLineForm
          label="Path that leads here"
          placeholder="/old-name"
          isPath
          action="Add"
          onTake={(typed) => void add(typed)}
          onLeave={() => {
            setWriting(false);
            setError(null);
          }}
        />
      )}
    </section>
  );
}
