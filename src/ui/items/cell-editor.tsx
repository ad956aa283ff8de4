"use client";
import { slugRulesOf } from "../../core/slugs/site-rules";
import { folderOf } from "../../core/addresses/addresses";
import { type ListedItem } from "../../server/items/listed-item";
import { Popover } from "radix-ui";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { type Site, limitsOf } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { ROBOTS } from "../../core/design/robots";
import { tidyByHand } from "../../core/edits/hand-text";
import { fitsSurface } from "../../core/measure/wrap";
import { charCount } from "../../core/text/char-count";
import { drawnKeyword } from "../../core/proof/drawn-keyword";
import { roomOf } from "../../core/proof/site-room";
import { widthOf } from "../../core/measure/running-width";
import { ResultPreview } from "../proof/result-preview";
import { SLUG_CHARACTER, surfaceType } from "../proof/true-size";
import { PLAIN_ACTION } from "../shell/actions";
import { type ItemColumn } from "./columns";

/** A cell that is being edited. */
export interface Editing {
  readonly item: ListedItem;
  readonly column: ItemColumn;
  readonly anchor: HTMLElement;
  readonly typed: string | null;
}

interface Props {
  readonly editing: Editing;
  readonly site: Site;
  readonly onSave: (value: string, next: boolean) => void;
  readonly onLetGo: () => void;
  readonly onClose: () => void;
}

interface EditorProps extends Props {
  /** Told what was written, `null` for nothing, and whether it can be saved. */
  readonly onWritten: (value: string | null, canSave?: boolean) => void;
}

/**
 * A value by hand for one page, at true size on its ruler, with the result as it would be seen. Who goes elsewhere has written it; Escape leaves
 * it as it was.
 */
export function CellEditor(props: Props) {
  const { editing } = props;
  const edits = editing.column.edits!;
  const written = useRef<{ readonly value: string | null; readonly canSave: boolean }>({ value: null, canSave: true });
  const isLeft = useRef(false);
  /** Leaves once: the focus that goes with what is closed is no second leaving. */
  const leaving = (leave: () => void) => {
    if (isLeft.current) return;
    isLeft.current = true;
    leave();
  };
  const onSave = (value: string, next: boolean) => leaving(() => props.onSave(value, next));
  const onClose = () => leaving(props.onClose);
  const goElsewhere = () => {
    const { value, canSave } = written.current;
    if (value === null) onClose();
    // What cannot be saved as it is stays open, with what is wrong with it.
    else if (canSave) onSave(value, false);
  };
  const editor = {
    ...props,
    onSave,
    onClose,
    onLetGo: () => leaving(props.onLetGo),
    onWritten: (value: string | null, canSave = true) => void (written.current = { value, canSave }),
  };
  return (
    <Popover.Root open onOpenChange={(open) => !open && goElsewhere()}>
      <Popover.Anchor virtualRef={{ current: editing.anchor }} />
      <Popover.Portal>
        <Popover.Content
          aria-label={`${editing.column.label} of ${editing.item.name || "a page without a name"}`}
          align="start"
          sideOffset={2}
          collisionPadding={12}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onEscapeKeyDown={onClose}
          className="z-40 rounded-sm border border-key bg-sheet p-3 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          {edits === "keyword" ? (
            <KeywordEditor {...editor} />
          ) : edits === "robots" ? (
            <RobotsEditor {...editor} />
          ) : (
            <TextEditor {...editor} text={edits} />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function TextEditor({ editing, site, text, onSave, onLetGo, onClose, onWritten }: EditorProps & { text: TextName }) {
  const own = editing.item.texts[text];
  const [value, setValue] = useState(editing.typed ?? own.draft);
  const { surface, width, unit } = roomOf(site, text);
  const tidied = tidyByHand(text, value, slugRulesOf(site));
  const made = "value" in tidied ? tidied.value : "";
  useEffect(() => void onWritten(value === own.draft ? null : value, "value" in tidied));
  const size = widthOf(surface, text === "slug", made);
  const limits = limitsOf(site, text);
  const beyond =
    text === "slug"
      ? made.length > site.slug.max
        ? ["its limit"]
        : []
      : limits.surfaces.filter((one) => !fitsSurface(one, made)).map(({ label }) => label);
  if (limits.chars !== null && charCount(made) > limits.chars) beyond.push(`${limits.chars} characters`);
  const keyword =
    editing.item.keyword === "" ? null : drawnKeyword(site, editing.item.keyword, made, surface, text === "slug");
  const scale = unit === "px" ? 1 : SLUG_CHARACTER;
  // Descriptions run over two lines: their ruler is that of a line.
  const line = surface && surface.lines > 1 ? surface.width : width;
  const many = surface !== null && surface.lines > 1;
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Enter" || event.nativeEvent.isComposing) return;
    event.preventDefault();
    if ("value" in tidied) onSave(value, !event.shiftKey);
  };
  const shared = {
    "aria-label": `${editing.column.label} by hand`,
    value,
    autoFocus: true,
    spellCheck: true,
    onKeyDown,
    onFocus: (event: { currentTarget: HTMLInputElement | HTMLTextAreaElement }) =>
      editing.typed === null && event.currentTarget.select(),
  };
  const type = surfaceType(surface);
  const paths = {
    path: text === "slug" ? folderOf(editing.item.path) + made : editing.item.path,
  };
  return (
    <div style={{ width: Math.max(620, Math.min(760, line * scale + 40)) }}>
      <p className="mb-1.5 flex items-baseline justify-between gap-4 text-[12px] text-soft">
        <span className="min-w-0 truncate">
          {editing.column.label} of <b className="text-key">{editing.item.name}</b>
        </span>
        <span className={`shrink-0 ${beyond.length > 0 ? "font-semibold text-magenta" : ""}`} role="status">
          {Math.round(size)} of {width} {unit}, {charCount(made)} characters
          {beyond.length > 0 ? `; too wide for ${beyond.join(", ")}` : ""}
        </span>
      </p>
      <div className="relative border border-hair bg-sheet focus-within:border-key">
        {many ? (
          <textarea
            {...shared}
            rows={4}
            onChange={(event) => setValue(event.target.value.replace(/\s*[\r\n]+\s*/g, " "))}
            className="block w-full resize-none bg-transparent py-1 outline-none"
            style={{ ...type, lineHeight: 1.35, width: line, fontKerning: "normal" }}
          />
        ) : (
          <input
            {...shared}
            onChange={(event) => setValue(event.target.value)}
            className="block w-full bg-transparent py-1.5 outline-none"
            style={{ ...type, fontKerning: "normal" }}
          />
        )}
        <span
          aria-hidden="true"
          className="pointer-events-none absolute inset-y-0 w-[1.5px] bg-rule"
          style={{ left: line * scale }}
        />
        {!many && size > line && (
          <span
            aria-hidden="true"
            className="hatch pointer-events-none absolute bottom-[3px] h-1"
            style={{ left: line * scale, right: 0 }}
          />
        )}
      </div>
      {!("value" in tidied) && (
        <p role="alert" className="mt-1.5 text-magenta">
          The {text} {tidied.refused}
        </p>
      )}
      {text === "slug" && made !== "" && made !== value && (
        <p className="mt-1.5 text-soft">
          Becomes <span className="font-mono text-key">{made}</span>
        </p>
      )}
      {editing.item.keyword !== "" && made !== "" && (
        <p className="mt-1.5 text-soft">
          <mark className="marker px-0.5 text-inherit">{editing.item.keyword}</mark>{" "}
          {!keyword || keyword.form === "absent" || keyword.char === null ? (
            <span className="text-magenta">is not in it</span>
          ) : !keyword.seen ? (
            <span className="text-magenta">is cut off</span>
          ) : keyword.form === "exact" ? (
            `appears at ${Math.round(keyword.start)} ${unit}`
          ) : (
            `appears as a ${keyword.form === "variant" ? "variant" : `${keyword.form} match`} at ${Math.round(keyword.start)} ${unit}`
          )}
          {keyword && keyword.count > 1 ? `, ${keyword.count} times` : ""}
        </p>
      )}
      <div className="mt-2 overflow-hidden border-t border-hair pt-2">
        <ResultPreview
          device="desktop"
          site={site}
          title={text === "title" ? made : editing.item.texts.title.draft}
          description={text === "description" ? made : editing.item.texts.description.draft}
          keyword={editing.item.keyword}
          {...paths}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className={PLAIN_ACTION}
          disabled={!("value" in tidied)}
          onClick={() => onSave(value, false)}
        >
          Set by hand
        </button>
        {own.from === "hand" && (
          <button type="button" className={PLAIN_ACTION} onClick={onLetGo}>
            Use the line again
          </button>
        )}
        <button type="button" className={PLAIN_ACTION} onClick={onClose}>
          Cancel
        </button>
        <span className="narrow ml-auto text-[12px] text-faint">Enter saves and moves down, Esc cancels</span>
      </div>
    </div>
  );
}

function KeywordEditor({ editing, onSave, onClose, onWritten }: EditorProps) {
  const [value, setValue] = useState(editing.typed ?? editing.item.keyword);
  useEffect(() => void onWritten(value !== editing.item.keyword ? value : null));
  return (
    <form
      className="w-80"
      onSubmit={(event) => {
        event.preventDefault();
        onSave(value, true);
      }}
    >
      <label className="block">
        <span className="text-[12px] text-soft">Focus keyword of {editing.item.name}</span>
        <input
          autoFocus
          value={value}
          maxLength={200}
          onChange={(event) => setValue(event.target.value)}
          onFocus={(event) => editing.typed === null && event.currentTarget.select()}
          className="mt-1 block w-full rounded-sm border border-edge bg-sheet px-2 py-1"
        />
      </label>
      <div className="mt-2 flex gap-2">
        <button type="submit" className={PLAIN_ACTION}>
          {value.trim() === "" ? "Clear" : "Save"}
        </button>
        <button type="button" className={PLAIN_ACTION} onClick={onClose}>
          Cancel
        </button>
      </div>
    </form>
  );
}

function RobotsEditor({ editing, onSave, onLetGo }: EditorProps) {
  const { draft, from, rule } = editing.item.robots;
  return (
    <fieldset className="w-80">
      <legend className="mb-1 text-[12px] text-soft">Robots setting of {editing.item.name}</legend>
      {ROBOTS.map((robots, i) => (
        <button
          key={robots}
          type="button"
          autoFocus={draft === robots || (i === 0 && draft === "index, follow")}
          aria-pressed={draft === robots && from === "hand"}
          onClick={() => onSave(robots, false)}
          className={`block w-full px-2 py-1 text-left hover:bg-cyan-pale ${draft === robots ? "font-bold" : ""}`}
        >
          {robots}
        </button>
      ))}
      <p className="mt-1 border-t border-hair px-2 pt-2 text-[12px] text-soft">
        {from === "hand"
          ? "Set by hand"
          : from === "rule"
            ? `Set by the rule “${rule}”`
            : from === "base"
              ? "Set by the base"
              : "Live setting; no rule sets it"}
      </p>
      {from === "hand" && (
        <button type="button" className={`${PLAIN_ACTION} mt-2`} onClick={onLetGo}>
          Use the rule or the live setting again
        </button>
      )}
    </fieldset>
  );
}
