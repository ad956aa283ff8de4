import { DropdownMenu } from "radix-ui";

/** What menus stand in. */
export const MENU =
  "z-40 max-h-[70vh] overflow-auto rounded-sm border border-key bg-sheet py-1 text-key shadow-[4px_4px_0_rgb(20_33_42/0.18)]";

/** One action of a menu, with its shortcut or what else is to be known of it. */
export function MenuItem({
  label,
  hint,
  disabled,
  onSelect,
}: {
  label: string;
  hint?: string;
  disabled?: boolean;
  onSelect: () => void;
}) {
  return (
    <DropdownMenu.Item
      disabled={disabled ?? false}
      onSelect={onSelect}
      className="flex cursor-default justify-between gap-6 px-3 py-1 outline-none data-[disabled]:text-faint data-[highlighted]:bg-cyan-pale"
    >
      {label} {hint !== undefined && <kbd className="narrow font-sans text-faint">{hint}</kbd>}
    </DropdownMenu.Item>
  );
}
