"use client";
import { useState } from "react";
import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { type ExplainedProof } from "../../core/proof/row-proof";
import type { BenchRow } from "../../server/bench/bench-row";
import { ResultPreview, TabPreview } from "../proof/result-preview";
import { type ShelfLook } from "./results-shelf";

const DEVICES = ["desktop", "phone", "tab"] as const;
type Device = (typeof DEVICES)[number];
const LABELS: Readonly<Record<Device, string>> = {
  desktop: "Desktop result",
  phone: "Phone result",
  tab: "Browser tab",
};

/** The chosen page, and what its lines make of it. */
export interface ShownResult {
  readonly row: BenchRow;
  readonly proofs: Readonly<Record<TextName, ExplainedProof>>;
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

/** The same on the shelf below the rows: all of them, or one where there is no room. */
export function ShelfResults({ isWide, isFolded, ...shown }: ShownResult & ShelfLook) {
  const [device, setDevice] = useState<Device>("desktop");
  return DEVICES.filter((one) => (isWide ? one !== "tab" : one === device)).map((one) => (
    <div key={one} className={isWide && one === "phone" ? "border-l border-hair pl-5" : ""}>
      {isWide ? (
        <h2 className="text-[12px] font-semibold text-soft">{LABELS[one]}</h2>
      ) : (
        <DeviceChoice device={device} onDevice={setDevice} />
      )}
      {!isFolded && <Result device={one} {...shown} />}
      {!isFolded && isWide && one === "desktop" && (
        <div className="flex items-end gap-3 text-[12px] text-soft">
          {LABELS.tab} <Result device="tab" {...shown} />
        </div>
      )}
    </div>
  ));
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
  const title = proofs.title.text;
  if (device === "tab")
    return (
      <div className="mt-1.5">
        <TabPreview site={site} title={title} />
      </div>
    );
  return (
    <ResultPreview
      device={device}
      site={site}
      title={title}
      description={proofs.description.text}
      path={row.address ?? row.folder + proofs.slug.text}
      keyword={row.fields["keyword"] ?? ""}
    />
  );
}
