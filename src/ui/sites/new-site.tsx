import { useRef, useState } from "react";
import { LANGUAGES } from "../../core/text/languages";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";

/** The ways to a site of one's own: its name, address and language first, then its pages. */
export function NewSite({ busy, onDemo, onFile }: { busy: boolean; onDemo: () => void; onFile: (file: File) => void }) {
  const [name, setName] = useState("");
  const [baseUrl, setBaseUrl] = useState("");
  const [language, setLanguage] = useState("en");
  const [error, setError] = useState<string | null>(null);
  const [making, setMaking] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const make = async (next: "import" | "settings") => {
    if (name.trim() === "") {
      setError("The site needs a name.");
      return;
    }
    setMaking(true);
    setError(null);
    try {
      const { id } = await call("sites.make", { name, baseUrl: baseUrl.trim(), language });
      window.location.assign(`/${id}/${next}`);
    } catch (trouble) {
      setError(wordsOf(trouble));
      setMaking(false);
    }
  };
  const cannot = making || busy;
  return (
    <aside aria-labelledby="new-title" className="self-start border border-key bg-sheet px-5 py-4">
      <h2 id="new-title" className="text-[17px] font-bold">
        Start with your own site
      </h2>
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!cannot) void make("import");
        }}
      >
        <Field label="Name" value={name} onChange={setName} hint="Used in lines as {site}" />
        <Field label="Address" value={baseUrl} onChange={setBaseUrl} hint="Such as https://shop.example" />
        <label className="grid gap-1">
          <span className="font-semibold">Language</span>
          <select
            className="rounded-sm border border-edge bg-sheet px-2 py-1"
            value={language}
            onChange={(event) => setLanguage(event.target.value)}
          >
            {LANGUAGES.map(({ tag, label }) => (
              <option key={tag} value={tag}>
                {label}
              </option>
            ))}
          </select>
        </label>
        {error !== null && (
          <p role="alert" className="text-magenta">
            {error}
          </p>
        )}
        <button type="submit" className={MAIN_ACTION} disabled={cannot}>
          Import pages from a file
        </button>
        <button type="button" className={PLAIN_ACTION} disabled={cannot} onClick={() => void make("settings")}>
          Start without pages
        </button>
      </form>
      <div className="mt-5 grid gap-2 border-t border-hair pt-3">
        <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => file.current!.click()}>
          Import a site file
        </button>
        <input
          ref={file}
          type="file"
          aria-label="Site file"
          accept=".db"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (chosen) onFile(chosen);
            event.target.value = "";
          }}
        />
        <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={onDemo}>
          Create the demo site
        </button>
        <p className="text-[12.5px] text-soft">
          The demo site has 13,806 made-up pages of a ships’ chandler to try things on.
        </p>
      </div>
    </aside>
  );
}

function Field({
  label,
  value,
  onChange,
  hint,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  hint: string;
}) {
  return (
    <label className="grid gap-1">
      <span className="font-semibold">{label}</span>
      <input
        className="rounded-sm border border-edge bg-sheet px-2 py-1"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        autoComplete="off"
      />
      <span className="text-[12.5px] text-soft">{hint}</span>
    </label>
  );
}
