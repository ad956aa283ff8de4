"use client";
import { ChevronDown, ChevronUp } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import type { BenchRow } from "../../server/bench/bench-row";
import { PROVER } from "../proof/prover";
import { useLater } from "../shell/later";
import { type LocalProof } from "../proof/local-proof";
import { browserStorage } from "../shell/site-storage";

const DEVICES = ["desktop", "phone", "tab"] as const;
type Device = (typeof DEVICES)[number];
const LABELS: Readonly<Record<Device, string>> = {
  desktop: "Desktop result",
  phone: "Phone result",
  tab: "Browser tab",
};
/** Both results stand side by side from this width on, in px; the tab below the first of them. */
const ALL = 1000;
const FOLDED = "nine-lines preview folded";

/** The chosen page, and what its lines make of it. */
export interface ShownResult {
  readonly row: BenchRow;
  readonly proofs: Readonly<Record<TextName, LocalProof>>;
  readonly site: Site;
}

/** The chosen page as results and a browser's tab show it, at true size, one below another. */
export function ResultsBeside(shown: ShownResult) {
  return (
    <section aria-label="Results" className="space-y-3 border-b border-hair p-3.5">
      {DEVICES.map((device) => (
        <div key={device}>
          <h2 className="text-[12px] font-semibold text-soft">{LABELS[device]}</h2>
          <Result device={device} {...shown} />
        </div>
      ))}
    </section>
  );
}

/** The same below the rows: all of them, or one where there is no room; folded to a line if one wants more rows. */
export function ResultsShelf(shown: ShownResult) {
  const holder = useRef<HTMLElement>(null);
  const [all, setAll] = useState(false);
  const [device, setDevice] = useState<Device>("desktop");
  const [folded, setFolded] = useFolded();
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setAll(entry!.contentRect.width >= ALL));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const Chevron = folded ? ChevronUp : ChevronDown;
  return (
    <section
      ref={holder}
      aria-label="Results"
      className={`relative flex shrink-0 gap-7 overflow-hidden border-t border-key bg-raised px-5 pt-2 ${folded ? "h-[34px]" : "h-[152px]"}`}
    >
      {DEVICES.filter((one) => (all ? one !== "tab" : one === device)).map((one) => (
        <div key={one} className={all && one === "phone" ? "border-l border-hair pl-5" : ""}>
          {all ? (
            <h2 className="text-[12px] font-semibold text-soft">{LABELS[one]}</h2>
          ) : (
            <DeviceChoice device={device} onDevice={setDevice} />
          )}
          {!folded && <Result device={one} {...shown} />}
          {!folded && all && one === "desktop" && (
            <div className="flex items-end gap-3 text-[12px] text-soft">
              {LABELS.tab} <Result device="tab" {...shown} />
            </div>
          )}
        </div>
      ))}
      <button
        type="button"
        aria-expanded={!folded}
        aria-label="Preview"
        title={folded ? "Show the preview" : "Fold the preview: more rows"}
        onClick={() => setFolded(!folded)}
        className="absolute right-3 top-1 grid size-6 place-items-center rounded-sm text-soft hover:bg-hair hover:text-key"
      >
        <Chevron size={16} aria-hidden="true" />
      </button>
    </section>
  );
}

function DeviceChoice({ device, onDevice }: { device: Device; onDevice: (device: Device) => void }) {
  return (
    <div role="radiogroup" aria-label="Where the result is seen" className="flex gap-3 text-[12px]">
      {DEVICES.map((other) => (
        <button
          key={other}
          type="button"
          role="radio"
          aria-checked={other === device}
          onClick={() => onDevice(other)}
          className={
            other === device
              ? "font-semibold text-key underline decoration-rule decoration-2 underline-offset-4"
              : "text-soft hover:text-key"
          }
        >
          {LABELS[other]}
        </button>
      ))}
    </div>
  );
}

function Result({ device, row, proofs, site }: ShownResult & { device: Device }) {
  const prover = useLater(PROVER, true);
  if (!prover) return null;
  const title = proofs.title.text;
  if (device === "tab")
    return (
      <div className="mt-1.5">
        <prover.TabPreview site={site} title={title} />
      </div>
    );
  return (
    <prover.ResultPreview
      device={device}
      site={site}
      title={title}
      description={proofs.description.text}
      path={row.address ?? row.folder + proofs.slug.text}
      keyword={row.fields["keyword"] ?? ""}
    />
  );
}

/** Whether the preview is folded, as it was left. */
function useFolded(): [boolean, (folded: boolean) => void] {
  const [folded, setFolded] = useState(() => browserStorage()?.getItem(FOLDED) === "1");
  return [
    folded,
    (next) => {
      setFolded(next);
      browserStorage()?.setItem(FOLDED, next ? "1" : "0");
    },
  ];
}
