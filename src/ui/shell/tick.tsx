import { Check, Minus } from "lucide-react";
import { Checkbox } from "radix-ui";

/** A box to take something in or leave it out; `mixed` where some of it is in. */
export function Tick({
  checked,
  disabled,
  label,
  tabIndex,
  onChange,
}: {
  checked: boolean | "mixed";
  disabled?: boolean;
  label: string;
  /** -1 in a list that is one stop for Tab. */
  tabIndex?: number;
  onChange: (checked: boolean) => void;
}) {
  return (
    <Checkbox.Root
      checked={checked === "mixed" ? "indeterminate" : checked}
      disabled={disabled ?? false}
      aria-label={label}
      tabIndex={tabIndex}
      onCheckedChange={(next) => onChange(next === true)}
      className="mt-[2px] flex size-[15px] shrink-0 items-center justify-center rounded-[3px] border border-key bg-sheet text-sheet data-[state=checked]:bg-key data-[state=indeterminate]:bg-key disabled:border-faint disabled:opacity-50"
    >
      <Checkbox.Indicator>
        {checked === "mixed" ? <Minus size={11} strokeWidth={4} /> : <Check size={11} strokeWidth={4} />}
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}
