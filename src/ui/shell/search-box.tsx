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
  const [typed, setTyped] = useTyped(value, onSearch);
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      title={title}
      value={typed}
      maxLength={200}
      onChange={(event) => setTyped(event.target.value)}
      className={`rounded-sm border border-edge bg-sheet px-2 py-1 placeholder:text-soft ${className}`}
    />
  );
}

/**
 * What stands in a box whose text is told elsewhere and comes back from there, late and perhaps with steps left out. What comes back
 * is what was typed on the way; only what was never typed is somebody else’s.
 */
function useTyped(value: string, tell: (typed: string) => void): [string, (typed: string) => void] {
  const [typed, setTyped] = useState(value);
  const [seen, setSeen] = useState(value);
  /** What was told and has not come back. */
  const [away, setAway] = useState<readonly string[]>([]);
  if (value !== seen) {
    setSeen(value);
    if (value === typed) setAway([]);
    else if (away.includes(value)) setAway(away.slice(away.indexOf(value) + 1));
    else {
      setAway([]);
      setTyped(value);
    }
  }
  const type = (next: string) => {
    setTyped(next);
    setAway((before) => [...before, next]);
    tell(next);
  };
  return [typed, type];
}
