"use client";
import { useRef } from "react";
import { SLUG_FAULTS, type SlugFault } from "../../core/checks/slug-fault-ids";
import { type AddressChange } from "../../core/addresses/address-change";
import { parseShape } from "../../core/addresses/parse-shape";
import { withAddress } from "../../core/design/change-rules";
import { type KindDesign, movesOf } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import { type KnownFields } from "../../core/lines/parse";
import { addressReading } from "../../core/addresses/address-reading";
import type { AddressExample, ProvedAddresses } from "../../server/bench/bench-addresses";
import type { FieldInfo } from "../../server/bench/field-infos";
import { LineEditor } from "../line-editor/line-editor";
import { count, counted } from "../shell/format";
import { useCall } from "../shell/queries";
import { useKindWord, useSite } from "../shell/site-context";

const CHANGE_WORDS: Record<AddressChange, string> = {
  slug: "slug",
  "folder-added": "folder added",
  "folder-dropped": "folder dropped",
  "folder-renamed": "folder renamed",
  ending: "ending",
};

/** The line of whole addresses beneath the slug line: which pages it moves, and to where. */
export function AddressRow(props: {
  kind: Kind;
  /** As it is typed, and as it is proved: with each line as it last was without an error. */
  design: KindDesign;
  good: KindDesign;
  known: KnownFields | undefined;
  fields: readonly FieldInfo[];
  stamp: string;
  onChange: (design: KindDesign, what: string, step: string) => void;
  onUndo: () => void;
  onRedo: () => void;
}) {
  const { kind, design } = props;
  const source = design.address ?? "";
  const line = source.trim() === "" ? null : parseShape(source, props.known).line;
  const error = line?.errors[0];
  const lastGood = useRef({ kind, source });
  if (!error) lastGood.current = { kind, source };
  const proved = withAddress(props.good, lastGood.current.kind === kind ? lastGood.current.source : "");
  // Pages may go where a redirect leads from now.
  const { redirects } = useSite().state;
  const { answer } = useCall("bench.addresses", { kind, design: proved }, `${props.stamp} ${redirects}`);
  const shown = answer?.kind === kind ? answer : null;
  return (
    <section aria-label="Address" className="address-row border-t border-hair py-1">
      <div className="flex items-start gap-3 small:flex-wrap">
        <span className="w-[74px] shrink-0 pt-1 font-semibold text-soft">Address</span>
        <div className="min-w-0 flex-1 small:order-3 small:w-full small:flex-none">
          <LineEditor
            label="Address line"
            value={source}
            fields={props.fields}
            onChange={(value) => props.onChange(withAddress(design, value), "address line", "address")}
            onUndo={props.onUndo}
            onRedo={props.onRedo}
            invalid={error !== undefined}
            describedBy="error-address"
            placeholder="No line: a page stays in its folder"
          />
        </div>
        <div
          data-figures-of={proved.address ?? ""}
          className={`narrow flex min-w-[180px] shrink-0 justify-end gap-3 pt-1 text-[12.5px] small:justify-start ${error ? "[&_*]:!text-soft" : ""}`}
        >
          {shown && <Figures proved={shown} />}
        </div>
      </div>
      <div className="ml-[86px] min-h-[18px] small:ml-0">
        <p id="error-address" className="text-[12px] text-magenta" role="status">
          {error && (
            <>
              {error.message}.{" "}
              <span className="text-soft">At character {error.from + 1}; a line with an error is never applied.</span>
            </>
          )}
        </p>
        {line && !error && <p className="truncate text-[12px] text-soft">Reads: {addressReading(line.nodes)}</p>}
        <WhoMoves
          kind={kind}
          design={design}
          onChange={(next) => props.onChange(next, "pages that may move", "moves")}
        />
        {shown && <Examples proved={shown} />}
      </div>
    </section>
  );
}

function heldBack({ held }: ProvedAddresses): number {
  return held.clash + held.below + held.reserved;
}

function Figures({ proved }: { proved: ProvedAddresses }) {
  const stay = heldBack(proved);
  return (
    <>
      {proved.gets > 0 && (
        <span>
          <b>{count(proved.gets)}</b> <span className="text-soft">get one</span>
        </span>
      )}
      <span data-figure="address-moves">
        <b>{count(proved.moves)}</b> <span className="text-soft">move</span>
      </span>
      {proved.along > 0 && (
        <span>
          <b>{count(proved.along)}</b> <span className="text-soft">move along</span>
        </span>
      )}
      <span title="Two pages would have one address, a page above cannot move, or the site itself answers there">
        <b className={stay > 0 ? "text-magenta" : ""}>{count(stay)}</b> <span className="text-soft">cannot</span>
      </span>
    </>
  );
}

const FAULT_WORDS: Record<SlugFault, string> = {
  "too-many-characters": "too long",
  "stop-words": "stop words",
  numbers: "numbers",
  capitals: "capitals",
  underscores: "underscores",
  "non-ascii": "letters beyond ASCII",
  "too-deep": "too deep",
};

/** Which pages may move for the lines: a choice, and with findings which of them. */
function WhoMoves({
  kind,
  design,
  onChange,
}: {
  kind: Kind;
  design: KindDesign;
  onChange: (design: KindDesign) => void;
}) {
  const kindWord = useKindWord();
  const many = kindWord(kind, 2);
  const moves = movesOf(design);
  const chosen = design.movesFor ?? SLUG_FAULTS;
  const toggled = (fault: SlugFault) => SLUG_FAULTS.filter((own) => chosen.includes(own) !== (own === fault));
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[12px] text-soft">
      <label className="flex min-w-0 items-center gap-2 small:flex-wrap">
        Slug and address lines are for
        <select
          className="min-h-7 min-w-0 rounded-sm border border-edge bg-sheet px-1 py-0.5 text-key"
          value={moves}
          onChange={(event) => onChange({ ...design, moves: event.target.value as typeof moves })}
        >
          <option value="new">{many} without an address; all others stay where they are</option>
          <option value="found">{many} without an address, and those whose slug has a finding</option>
          <option value="all">all {many}: those that have an address move, each with a redirect</option>
        </select>
      </label>
      {moves === "found" &&
        SLUG_FAULTS.map((fault) => (
          <label key={fault} className="flex items-center gap-1 whitespace-nowrap">
            <input
              type="checkbox"
              checked={chosen.includes(fault)}
              onChange={() => onChange({ ...design, movesFor: toggled(fault) })}
            />
            {FAULT_WORDS[fault]}
          </label>
        ))}
    </div>
  );
}

function Examples({ proved }: { proved: ProvedAddresses }) {
  const { examples, clashes, changes, overRedirects } = proved;
  const [example] = examples;
  const [clash] = clashes;
  if (!example && !clash) return null;
  return (
    <div className="mt-0.5 text-[12px]">
      {changes.length > 0 && (
        <p className="text-soft">
          {changes.map(({ change, count: pages }, i) => (
            <span key={change}>
              {i > 0 && ", "}
              {CHANGE_WORDS[change]} on {counted(pages, "page", "pages")}
            </span>
          ))}
        </p>
      )}
      {example && (
        <p className="truncate font-mono text-[11px] leading-[16px]" title={example.name}>
          <span className="text-soft">{example.from || "no address yet"}</span>
          <br />
          {example.to}
        </p>
      )}
      {overRedirects > 0 && (
        <p className="truncate text-magenta">
          {overRedirects === 1 ? "One page takes an address" : `${count(overRedirects)} pages take addresses`} that{" "}
          {overRedirects === 1 ? "redirects" : "redirect"} elsewhere now;{" "}
          {overRedirects === 1 ? "that redirect ends" : "those redirects end"}
        </p>
      )}
      {clash && <Clash clash={clash} more={heldBack(proved) - 1} />}
    </div>
  );
}

function Clash({ clash, more }: { clash: AddressExample; more: number }) {
  return (
    <p className="truncate text-magenta" title={`${clash.name}: ${clash.to}`}>
      {more > 0 ? `${count(more + 1)} pages stay` : "One page stays"}: another page would have the same address,{" "}
      <span className="font-mono text-[11px]">{clash.to}</span>
    </p>
  );
}
