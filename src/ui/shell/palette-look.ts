/** The palette's looks: it looks the same before its list is there. */
export const PALETTE_BOX =
  "fixed left-1/2 top-24 z-50 w-[520px] max-w-[calc(100vw-2rem)] -translate-x-1/2 rounded border border-key bg-sheet p-2 shadow-[6px_6px_0_rgb(20_33_42/0.25)]";
export const PALETTE_INPUT = "mb-1 w-full border-b border-hair bg-transparent px-3 py-2 text-[15px] outline-none";
export const PALETTE_HINT = "Type a command or a page to go to";
