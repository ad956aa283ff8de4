"use client";
import { useEffect, useRef, useState } from "react";
import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import type { BenchRow } from "../../server/bench/bench-row";
import { PROVER } from "../proof/prover";
import { useLater } from "../shell/later";
import { type LocalProof } from "../proof/local-proof";

const DEVICES = ["desktop", "phone"] as const;
const LABELS = { desktop: "Desktop result", phone: "Phone result" } as const;
/** Both stand side by side from this width on, in px. */
const BOTH = 1000;

/** The chosen page as desktop and phone results show it, at true size: both, or one of them where there is no room. */
export function ResultsShelf({
  row,
  proofs,
  site,
}: {
  row: BenchRow;
  proofs: Readonly<Record<TextName, LocalProof>>;
  site: Site;
}) {
  const prover = useLater(PROVER, true);
  const holder = useRef<HTMLElement>(null);
  const [both, setBoth] = useState(false);
  const [device, setDevice] = useState<(typeof DEVICES)[number]>("desktop");
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setBoth(entry!.contentRect.width >= BOTH));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const shared = {
    site,
    title: proofs.title.text,
    description: proofs.description.text,
    path: row.address ?? row.folder + proofs.slug.text,
    keyword: row.fields["keyword"] ?? "",
  };
  return (
    <section
      ref={holder}
      aria-label="Results"
      className="flex h-[152px] shrink-0 gap-7 overflow-hidden border-t border-key bg-raised px-5 pt-2"
    >
      {DEVICES.filter((one) => both || one === device).map((one) => (
        <div key={one} className={both && one === "phone" ? "border-l border-hair pl-5" : ""}>
          {both ? (
            <h2 className="text-[12px] font-semibold text-soft">{LABELS[one]}</h2>
          ) : (
            <div role="radiogroup" aria-label="Where the result is seen" className="flex gap-3 text-[12px]">
              {DEVICES.map((other) => (
                <button
                  key={other}
                  type="button"
                  role="radio"
                  aria-checked={other === device}
                  onClick={() => setDevice(other)}
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
          )}
          {prover && <prover.ResultPreview device={one} {...shared} />}
        </div>
      ))}
    </section>
  );
}
