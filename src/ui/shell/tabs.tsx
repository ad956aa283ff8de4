"use client";
import { type ReactNode } from "react";

/** The faces of a view, one of which is shown; arrows go from one to the next. */
export function Tabs<T extends string>({
  label,
  tabs,
  tab,
  onTab,
  panelClass,
  children,
}: {
  label: string;
  tabs: readonly (readonly [name: T, label: string])[];
  tab: T;
  onTab: (tab: T) => void;
  panelClass: string;
  children: ReactNode;
}) {
  const onKey = (key: string, name: T) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[key];
    if (step === undefined) return;
    const next = tabs[(tabs.findIndex(([own]) => own === name) + step + tabs.length) % tabs.length]![0];
    onTab(next);
    document.getElementById(`tab-${next}`)?.focus();
  };
  return (
    <>
      <div
        role="tablist"
        aria-label={label}
        className="flex shrink-0 gap-6 overflow-x-auto whitespace-nowrap border-b border-key bg-raised px-5"
      >
        {tabs.map(([name, words]) => (
          <button
            key={name}
            type="button"
            role="tab"
            id={`tab-${name}`}
            aria-selected={tab === name}
            aria-controls="shown-panel"
            tabIndex={tab === name ? 0 : -1}
            onClick={() => onTab(name)}
            onKeyDown={(event) => onKey(event.key, name)}
            className={`border-b-2 py-2 ${tab === name ? "border-key font-bold" : "border-transparent text-soft hover:text-key"}`}
          >
            {words}
          </button>
        ))}
      </div>
      <div role="tabpanel" id="shown-panel" aria-labelledby={`tab-${tab}`} className={panelClass}>
        {children}
      </div>
    </>
  );
}
