import { type Site } from "../../core/design/design";

/** How a part of the settings is changed, and what is wrong with it, by the path of the value such as `limits.title.chars`. */
export interface SettingsPart {
  readonly site: Site;
  readonly put: (change: Partial<Site>) => void;
  readonly errors: ReadonlyMap<string, string>;
}
