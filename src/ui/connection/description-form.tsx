import { INPUT } from "../settings/fields";
import { useCall } from "../shell/queries";
import { NEW_DESCRIPTION } from "./start";
import { type DescriptionState } from "./use-description";

/** The connection file and the secret: typed, begun with an example, or opened. */
export function DescriptionForm({
  description: { connection, typed, isRead, isChanged, isOvertaken, type, discard },
  secret,
  onSecret,
}: {
  description: DescriptionState;
  secret: string;
  onSecret: (secret: string) => void;
}) {
  const examples = useCall("wire.examples", {}, "");
  return (
    <>
      <label className="mt-3 block font-semibold" htmlFor="description">
        Connection file
      </label>
      <textarea
        id="description"
        spellCheck={false}
        className={`${INPUT} mt-1 h-72 resize-y whitespace-pre font-mono text-[12px]`}
        disabled={!isRead}
        value={typed}
        onChange={(event) => type(event.target.value)}
      />
      <p role="status" className="min-h-[19px] text-[12.5px]">
        {isRead && isChanged && (
          <>
            {isOvertaken ? "Another window saved something else since you began. " : "Not saved yet. "}
            <button type="button" className="underline underline-offset-2" onClick={discard}>
              Discard these changes
            </button>
          </>
        )}
      </p>
      <p className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-[12.5px]">
        Begin with:
        {[{ name: "A new one", description: NEW_DESCRIPTION }, ...(examples.answer ?? [])].map((own) => (
          <button
            key={own.name}
            type="button"
            className="underline underline-offset-2"
            disabled={!isRead}
            onClick={() => type(own.description)}
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
            disabled={!isRead}
            onChange={(event) => void event.target.files?.[0]?.text().then(type)}
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
        onChange={(event) => onSecret(event.target.value)}
      />
      <p className="mt-1 text-[12px] text-soft">
        {connection?.isFromEnvironment
          ? `It comes from the environment variable ${connection.variable}.`
          : "Stands for {secret} in headers. It is kept in a file of its own on this computer and sent to this address only."}
      </p>
    </>
  );
}
