import { type ReactNode } from "react";

export const INPUT = "block w-full rounded-sm border border-edge bg-sheet px-2 py-1";

/** A part of the settings under its heading. */
export function Section({
  id,
  title,
  about,
  children,
}: {
  id: string;
  title: string;
  about: ReactNode;
  children: ReactNode;
}) {
  return (
    <section id={id} className="max-w-[860px]">
      <h2 className="border-b border-key pb-1 text-[17px] font-bold">{title}</h2>
      <p className="mb-3 mt-1 text-soft">{about}</p>
      {children}
    </section>
  );
}

/** A setting with its name, what is to be said of it, and what is wrong with it. */
export function Setting({
  label,
  about,
  error,
  children,
}: {
  label: string;
  about?: string;
  error?: string | undefined;
  children: ReactNode;
}) {
  return (
    <label className="block">
      <span className="text-[12px] text-soft">{label}</span>
      {children}
      {about && <span className="narrow mt-0.5 block text-[12px] text-soft">{about}</span>}
      {error && (
        <span role="alert" className="mt-0.5 block text-magenta">
          {error}
        </span>
      )}
    </label>
  );
}

/** A whole or broken number; empty where none is one of the values. */
export function NumberInput({
  value,
  onChange,
  label,
  min = 0,
  step = 1,
  width = "w-20",
  empty,
}: {
  value: number | null;
  onChange: (value: number | null) => void;
  label: string;
  min?: number;
  step?: number;
  width?: string;
  empty?: string;
}) {
  return (
    <input
      type="number"
      aria-label={label}
      min={min}
      step={step}
      placeholder={empty}
      value={value ?? ""}
      onChange={(event) => {
        if (event.target.value !== "") onChange(Number(event.target.value));
        else if (empty !== undefined) onChange(null);
      }}
      className={`${width} rounded-sm border border-edge bg-sheet px-2 py-0.5 text-right placeholder:text-faint`}
    />
  );
}
