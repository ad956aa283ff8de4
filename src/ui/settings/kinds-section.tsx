import { kindIds, type KindInfo, kindsOf, KNOWN_KINDS, MOST_OWN_KINDS, withKinds } from "../../core/design/kinds";
import { PLAIN_ACTION } from "../shell/actions";
import { count } from "../shell/format";
import { Later, useLater } from "../shell/later";
import { useSite } from "../shell/site-context";
import { linesOfKind } from "../shell/site-kinds";
import { SIDEWAYS } from "../shell/sideways";
import { Section } from "./fields";
import { type SettingsPart } from "./settings-part";

/** Ids of new kinds are spelled in Latin letters, with large tables. */
const NEW_KIND = new Later(() => import("../../core/design/new-kind"));

const COLUMNS = ["Kind", "Singular", "Plural", "Other names in files", "Tree", "One page", "Pages", ""];
const CELL = "rounded-sm border border-edge bg-sheet px-2 py-0.5";

/** What kinds of page the site has: the seven that every site knows, and its own. */
export function KindsSection({ site, put, errors }: SettingsPart) {
  const { state } = useSite();
  const change = (kind: KindInfo) => {
    const known = KNOWN_KINDS.find(({ id }) => id === kind.id);
    const others = site.kinds.filter(({ id }) => id !== kind.id);
    // One that is as every site has it is none of the site's own.
    const isAsFirst = known !== undefined && JSON.stringify(kind) === JSON.stringify(known);
    put({ kinds: isAsFirst ? others : withKinds(site.kinds, [kind]) });
  };
  const made = useLater(NEW_KIND, true);
  const isUsed = (kind: KindInfo) =>
    (state.counts[kind.id] ?? 0) > 0 || (kindIds(state.site).includes(kind.id) && linesOfKind(state, kind.id) > 0);
  return (
    <Section
      id="kinds"
      title="Kinds of page"
      about="Each kind has its own lines and rules. An imported file names the kind in a column: by id, by singular or plural name, or by another name. In a tree, pages are nested, as categories are."
    >
      <div className={SIDEWAYS}>
        <table className="w-full border-separate border-spacing-y-1 text-left">
          <thead className="narrow text-[12px] text-soft">
            <tr>
              {COLUMNS.map((label, i) => (
                <th key={i} scope="col" className="pr-2 font-normal">
                  {label || <span className="sr-only">Actions</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {kindsOf(site).map((kind) => {
              const place = site.kinds.findIndex(({ id }) => id === kind.id);
              const error = [...errors].find(([path]) => path.startsWith(`kinds.${place}.`))?.[1];
              return (
                <KindRow
                  key={kind.id}
                  kind={kind}
                  pages={state.counts[kind.id] ?? 0}
                  error={place < 0 ? undefined : error}
                  onChange={change}
                  onRemove={
                    place < 0 || (!isKnown(kind) && isUsed(kind))
                      ? null
                      : () => put({ kinds: site.kinds.filter(({ id }) => id !== kind.id) })
                  }
                />
              );
            })}
          </tbody>
        </table>
      </div>
      <button
        type="button"
        className={`${PLAIN_ACTION} mt-2`}
        disabled={!made || site.kinds.length >= MOST_OWN_KINDS}
        onClick={() => made && put({ kinds: [...site.kinds, made.newKind("place", kindIds(site))] })}
      >
        Add a kind
      </button>
    </Section>
  );
}

function isKnown({ id }: KindInfo): boolean {
  return KNOWN_KINDS.some((known) => known.id === id);
}

function KindRow({
  kind,
  pages,
  error,
  onChange,
  onRemove,
}: {
  kind: KindInfo;
  pages: number;
  error: string | undefined;
  onChange: (kind: KindInfo) => void;
  /** `null` where it cannot be taken out: it has pages or lines, or is as every site has it. */
  onRemove: (() => void) | null;
}) {
  const switchOf = (part: "isTree" | "isSingle", label: string) => (
    <td className="pr-2 text-center">
      <input
        type="checkbox"
        aria-label={`${label}: ${kind.many}`}
        checked={kind[part]}
        disabled={part === "isTree" ? kind.id === "home" : pages > 1 && !kind.isSingle}
        onChange={() => onChange({ ...kind, [part]: !kind[part] })}
      />
    </td>
  );
  const word = (part: "one" | "many", label: string) => (
    <td className="pr-2">
      <input
        aria-label={`${label} of ${kind.id}`}
        value={kind[part]}
        maxLength={60}
        className={`${CELL} w-32`}
        onChange={(event) => onChange({ ...kind, [part]: event.target.value })}
      />
    </td>
  );
  return (
    <tr>
      <td className="pr-2 font-mono text-[12.5px]">
        {kind.id}
        {error && (
          <span role="alert" className="block font-sans text-magenta">
            {error}
          </span>
        )}
      </td>
      {word("one", "Word for one page")}
      {word("many", "Word for several pages")}
      <td className="pr-2">
        <input
          aria-label={`Other words for ${kind.id}, with commas between`}
          key={kind.words.join()}
          defaultValue={kind.words.join(", ")}
          className={`${CELL} w-44`}
          onBlur={(event) => {
            const words = event.target.value.split(",").map((own) => own.trim());
            onChange({ ...kind, words: [...new Set(words.filter(Boolean))] });
          }}
        />
      </td>
      {switchOf("isTree", "Pages are nested")}
      {switchOf("isSingle", "One page at most")}
      <td className="pr-2 text-right tabular-nums">{count(pages)}</td>
      <td>
        {onRemove && (
          <button
            type="button"
            aria-label={isKnown(kind) ? `${kind.id} reset` : `Remove ${kind.id}`}
            className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
            onClick={onRemove}
          >
            {isKnown(kind) ? "reset" : "remove"}
          </button>
        )}
      </td>
    </tr>
  );
}
