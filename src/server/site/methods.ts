import { type Site } from "../../core/design/design";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type SettingsMoves } from "./settings-moves";

/** What the worker answers of settings. */
export const settingsMethods = (moves: SettingsMoves) => ({
  settingsMoves: ({ from, to }: { readonly from: Site; readonly to: Site }, call: Call) =>
    moves.count(from, to, watching(call)),
});
