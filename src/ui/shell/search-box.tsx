"use client";
import { useState } from "react";

/** A box to search in. What the address bar says counts, as long as nothing is typed that is on its way there. */
export function SearchBox({
  label,
  placeholder,
  title,
  value,
  onSearch,
  className = "",
}: {
  label: string;
  placeholder: string;
  title?: string;
  /** What the address bar says. */
  value: string;
  onSearch: (typed: string) => void;
  className?: string;
}) {
  const [typed, setTyped] = useState(value);
  const [sent, setSent] = useState(value);
  if (value !== sent) {
    setSent(value);
    setTyped(value);
  }
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      title={title}
      value={typed}
      maxLength={200}
      onChange={(event) => {
        setTyped(event.target.value);
        setSent(event.target.value);
        onSearch(event.target.value);
      }}
      className={`rounded-sm border border-edge bg-sheet px-2 py-1 placeholder:text-soft ${className}`}
    />
  );
}
